import type { SurveyEvent } from '@pragmatica/contract';
import { gzipSync } from 'node:zlib';
import { openDatabase, readSettings, startWorker, storeOf, sweepContents } from '@pragmatica/server';
import { expect } from 'chai';
import { tmpdir } from 'node:os';
import { stageEnvironment, startStage, type Stage } from '../support/stage.js';
import { addSite, finished, linking, outcomes, ownSite, survey, type OwnSite } from '../support/surveys.js';

describe('a survey', function () {
  this.timeout(60_000);
  let stage: Stage;
  const sites: OwnSite[] = [];

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
  });

  after(async () => {
    for (const site of sites) site.close();
    await stage.close();
  });

  let count = 0;
  async function started(pages: Parameters<typeof ownSite>[0]): Promise<{ key: string; site: OwnSite }> {
    const site = await ownSite(pages);
    sites.push(site);
    const key = `walk-${++count}`;
    await addSite(stage, key, site.port);
    return { key, site };
  }

  describe('finds pages', () => {
    it('by links, where there is no sitemap: relative, by base, in frames; not elsewhere, and no files', async () => {
      const { key, site } = await started({
        '/': linking('/a', 'b#top', 'https://elsewhere.example/c', '/ship.jpg', 'mailto:x@example.com'),
        '/a': '<base href="/deep/"><a href="one">x</a><iframe src="/framed"></iframe>',
        '/b': linking('/'),
        '/deep/one': linking('../a?utm_source=mail'),
        '/framed': linking('/gone'),
      });
      const done = await survey(stage, key);
      expect(done).to.include({ state: 'done', found: 6, visited: 6 });
      expect(await outcomes(stage, key)).to.deep.equal({
        '/': 'read',
        '/a': 'read',
        '/b': 'read',
        '/deep/one': 'read',
        '/framed': 'read',
        '/gone': 'read',
      });
      expect(site.asked.map(({ path }) => path)).to.have.members([
        '/robots.txt',
        '/sitemap.xml',
        '/',
        '/a',
        '/b',
        '/deep/one',
        '/framed',
        '/gone',
      ]);
    });

    it('by the sitemaps that robots.txt names: an index, packed, and none of other sites', async () => {
      const { key } = await started({
        '/': linking(),
        '/robots.txt': (_, response) =>
          response.writeHead(200, { 'content-type': 'text/plain' }).end('Sitemap: /maps/index.xml\n'),
        '/maps/index.xml': (_, response) =>
          response
            .writeHead(200, { 'content-type': 'application/xml' })
            .end(
              '<sitemapindex><sitemap><loc>http://elsewhere.example/s.xml</loc></sitemap><sitemap><loc>/maps/one.xml.gz</loc></sitemap></sitemapindex>',
            ),
        '/maps/one.xml.gz': (request, response) => {
          const own = `http://${request.headers.host!}`;
          const xml = `<urlset><url><loc>${own}/listed?day=1</loc></url><url><loc>https://other.example/x</loc></url></urlset>`;
          response.writeHead(200, { 'content-type': 'application/gzip' }).end(gzipSync(xml));
        },
        '/listed?day=1': linking(),
      });
      await survey(stage, key);
      expect(await outcomes(stage, key)).to.deep.equal({ '/': 'read', '/listed?day=1': 'read' });
    });

    it('that are listed, and follows redirects and refreshes to pages of the site', async () => {
      const { key } = await started({
        '/': linking(),
        '/old': (_, response) => response.writeHead(301, { location: '/new' }).end(),
        '/new': '<meta http-equiv="refresh" content="0; url=/newest">',
        '/newest': linking(),
        '/out': (_, response) => response.writeHead(302, { location: 'https://else.example/' }).end(),
      });
      await survey(stage, key, { paths: ['/old', '/out'] });
      const { data } = await stage.client.call('listSurveyPages', {
        params: { site: key, survey: 'latest' },
        query: {},
      });
      expect(data.items.map(({ path, outcome, leadsTo }) => [path, outcome, leadsTo])).to.deep.equal([
        ['/', 'read', null],
        ['/new', 'read', '/newest'],
        ['/newest', 'read', null],
        ['/old', 'redirect', '/new'],
        ['/out', 'redirect', 'https://else.example/'],
      ]);
    });
  });

  describe('keeps to bounds:', () => {
    it('a calendar has no end, and the walk says where it stopped', async () => {
      const pages: Record<string, string> = { '/': linking('/calendar?month=0') };
      for (let month = 0; month < 60; month++)
        pages[`/calendar?month=${month}`] = linking(`/calendar?month=${month + 1}`);
      const { key } = await started(pages);
      const done = await survey(stage, key);
      expect(done.visited).to.equal(26);
      expect(done.notes).to.deep.equal([
        '/calendar?month: 26 pages of this pattern were found, and the first 25 visited. Calendars and filters never end.',
      ]);
    });

    it('no more pages than wanted', async () => {
      const { key } = await started({ '/': linking(...Array.from({ length: 30 }, (_, i) => `/p${i}`)) });
      const done = await survey(stage, key, { limit: 10 });
      expect(done).to.include({ found: 10, visited: 10 });
      expect(done.notes[0]).to.match(/^There are more pages than the 10 /);
    });

    it('pages that are no pages, too large, broken off or nested too deep cost only themselves', async () => {
      const { key } = await started({
        '/': linking('/data', '/large', '/broken', '/deep', '/fine'),
        '/data': (_, response) => response.writeHead(200, { 'content-type': 'text/csv' }).end('a,b'),
        '/large': (_, response) =>
          response.writeHead(200, { 'content-type': 'text/html' }).end('x'.repeat(9 << 20)),
        '/broken': (request) => request.socket.destroy(),
        '/deep': '<b>'.repeat(3_000),
        '/fine': linking(),
      });
      const done = await survey(stage, key);
      expect(await outcomes(stage, key)).to.deep.equal({
        '/': 'read',
        '/broken': 'unreachable',
        '/data': 'not-html',
        '/deep': 'unreadable',
        '/fine': 'read',
        '/large': 'too-large',
      });
      expect(done.failed).to.equal(3);
    });

    it('one request at a time, so far apart as robots.txt asks', async () => {
      const { key, site } = await started({
        '/robots.txt': (_, response) => response.end('User-agent: *\nCrawl-delay: 0.4\n'),
        '/': linking('/a', '/b', '/c'),
        '/a': '',
        '/b': '',
        '/c': '',
      });
      const done = await survey(stage, key);
      expect(done.notes).to.deep.equal(['robots.txt asks for 0.4 s between two requests, which is kept.']);
      const times = site.asked.filter(({ path }) => !path.includes('.')).map(({ at }) => at);
      // When a request arrives is not when it was sent: four of them take at least most of three delays.
      expect(times.at(-1)! - times[0]!).to.be.at.least(1_000);
    });
  });

  describe('honours robots.txt', () => {
    it('page by page; nofollow forbids nothing', async () => {
      const { key, site } = await started({
        '/robots.txt': (_, response) =>
          response.end('User-agent: *\nDisallow: /private\nAllow: /private/open\n'),
        '/': '<a href="/private/a">x</a><a href="/private/open" rel="nofollow">x</a>',
        '/private/open': linking(),
      });
      await survey(stage, key);
      expect(await outcomes(stage, key)).to.deep.equal({
        '/': 'read',
        '/private/a': 'forbidden',
        '/private/open': 'read',
      });
      expect(site.count('/private/a')).to.equal(0);
    });

    it('forbids all while it answers with an error, until the owner says otherwise, which is recorded', async () => {
      const { key } = await started({
        '/robots.txt': (_, response) => response.writeHead(503).end(),
        '/': linking(),
      });
      const failed = await survey(stage, key);
      expect(failed.state).to.equal('failed');
      expect(failed.problem).to.match(/robots\.txt answered with error 503\. Until that changes, nobody may/);
      const done = await survey(stage, key, { ignoreRobots: true });
      expect(done).to.include({ state: 'done', visited: 1 });
      expect(done.notes).to.deep.equal([
        'Pages that robots.txt forbids were visited as well: admin asked for it.',
      ]);
      const { data } = await stage.client.call('listActivity', { params: { site: key }, query: {} });
      expect(data.items.map(({ message }) => message)).to.include(
        `Started survey 2 of ${key}.localhost, also of pages that robots.txt forbids.`,
      );
    });

    it('allows all where there is none', async () => {
      const { key } = await started({ '/': linking('/a'), '/a': '' });
      expect((await survey(stage, key)).visited).to.equal(2);
    });
  });

  it('waits for a busy server as long as it asks to, and tries again', async () => {
    let tries = 0;
    const { key } = await started({
      '/': (_, response) => {
        tries++;
        if (tries === 1) response.writeHead(503, { 'retry-after': '1' }).end();
        else response.writeHead(200, { 'content-type': 'text/html' }).end(linking());
      },
    });
    const done = await survey(stage, key);
    expect(done).to.include({ visited: 1, failed: 0 });
    expect(tries).to.equal(2);
  });

  it('asks on a repeat only whether a page has changed, and takes over what it knew', async () => {
    let isChanged = false;
    const { key, site } = await started({
      '/': (request, response) => {
        const etag = isChanged ? '"two"' : '"one"';
        if (request.headers['if-none-match'] === etag) response.writeHead(304).end();
        else
          response
            .writeHead(200, { 'content-type': 'text/html', etag })
            .end(linking('/a') + (isChanged ? '<script src="https://nudgelet.example/n.js"></script>' : ''));
      },
      '/a': (request, response) => {
        if (request.headers['if-modified-since'] === 'Mon, 01 Mar 2027 10:00:00 GMT')
          response.writeHead(304).end();
        else
          response
            .writeHead(200, { 'content-type': 'text/html', 'last-modified': 'Mon, 01 Mar 2027 10:00:00 GMT' })
            .end('<title>A page</title>');
      },
    });
    await survey(stage, key);
    const second = await survey(stage, key);
    expect(second).to.include({ visited: 2, unchanged: 2 });
    expect(site.count('/')).to.equal(2);
    const { data } = await stage.client.call('showSurveyPage', {
      params: { site: key, survey: 2 },
      query: { path: '/a' },
    });
    expect(data).to.include({ title: 'A page', outcome: 'read' });
    isChanged = true;
    const third = await survey(stage, key);
    expect(third).to.include({ visited: 2, unchanged: 1 });
    const { data: changes } = await stage.client.call('showSurveyChanges', {
      params: { site: key, survey: 'latest' },
    });
    expect(changes.lines).to.deep.equal(['Nudgelet pop-up is new, on one page, such as /.']);
  });

  it('says what came and went since the one before', async () => {
    const pages: Record<string, string> = { '/': linking('/a', '/b'), '/a': '', '/b': '' };
    const { key } = await started(pages);
    await survey(stage, key);
    pages['/'] = linking('/a', '/c');
    delete pages['/b'];
    pages['/c'] = '<script src="https://tallymast.example/count.js"></script>';
    await survey(stage, key);
    const { data } = await stage.client.call('showSurveyChanges', {
      params: { site: key, survey: 'latest' },
    });
    expect(data.lines).to.deep.equal([
      'Tallymast visit counter is new, on one page, such as /c.',
      'One page is new: /c.',
      'One page is gone: /b.',
    ]);
  });

  it('leaves nothing behind when it is kept no more, and takes nothing from those that are', async () => {
    const pages: Record<string, string> = { '/': linking('/a'), '/a': '<div id="old"><p>x</p></div>' };
    const { key } = await started(pages);
    const first = await survey(stage, key);
    pages['/a'] = '<section id="new"><p>x</p></section>';
    await survey(stage, key);
    const orm = await openDatabase(stage.databaseUrl);
    const store = storeOf(orm);
    const has = async (id: string): Promise<boolean> => {
      const rows = await orm.em
        .fork()
        .execute<unknown[]>('select 1 from survey_text where body like ?', [`%id="${id}"%`]);
      return rows.length > 0;
    };
    try {
      await sweepContents(store);
      expect([await has('old'), await has('new')]).to.deep.equal([true, true]);
      await orm.em
        .fork()
        .execute('delete from survey where number = ? and site_id = (select id from site where key = ?)', [
          first.number,
          key,
        ]);
      expect(await sweepContents(store)).to.be.greaterThan(0);
      expect([await has('old'), await has('new')]).to.deep.equal([false, true]);
    } finally {
      await orm.close(true);
    }
    const { data } = await stage.client.call('showSurveyPage', {
      params: { site: key, survey: 'latest' },
      query: { path: '/a' },
    });
    expect(data.path).to.equal('/a');
  });

  it('can be cancelled; what it has read stays, and another may begin', async () => {
    const pages: Record<string, string> = { '/': linking(...Array.from({ length: 40 }, (_, i) => `/p${i}`)) };
    for (let i = 0; i < 40; i++) pages[`/p${i}`] = '';
    const { key } = await started(pages);
    const { data } = await stage.client.call('startSurvey', {
      params: { site: key },
      body: { delayMs: 200 },
    });
    for await (const event of stage.client.stream('watchSurvey', {
      params: { site: key, survey: data.number },
    }))
      if (event.survey.visited > 1) break;
    const refused = await stage.client
      .call('startSurvey', { params: { site: key }, body: {} })
      .catch((error: unknown) => error as Error);
    expect((refused as Error).message).to.match(/is already running/);
    await stage.client.call('cancelSurvey', { params: { site: key, survey: data.number } });
    const over = await finished(stage, key, data.number);
    expect(over.state).to.equal('cancelled');
    expect(over.visited).to.be.within(1, 30);
    expect((await survey(stage, key, { limit: 2 })).state).to.equal('done');
  });

  it('goes on where it was when its worker is gone, and reads no page twice', async () => {
    const pages: Record<string, string> = { '/': linking(...Array.from({ length: 30 }, (_, i) => `/p${i}`)) };
    for (let i = 0; i < 30; i++) pages[`/p${i}`] = '';
    const { key, site } = await started(pages);
    const { data } = await stage.client.call('startSurvey', {
      params: { site: key },
      body: { delayMs: 60 },
    });
    for await (const event of stage.client.stream('watchSurvey', {
      params: { site: key, survey: data.number },
    }))
      if (event.survey.visited > 3) break;
    // A second worker shares the work; it stops in the middle of it, and gives back what it had taken.
    const second = await startWorker(readSettings(stageEnvironment(tmpdir())), stage.databaseUrl);
    await second.close();
    const over = await finished(stage, key, data.number);
    expect(over).to.include({ state: 'done', visited: 31 });
    for (let i = 0; i < 30; i++) expect(site.count(`/p${i}`)).to.equal(1);
  });

  it('tells how far it is as server-sent events, too', async () => {
    const { key } = await started({ '/': linking('/a'), '/a': '' });
    const { data } = await stage.client.call('startSurvey', { params: { site: key }, body: {} });
    const answer = await fetch(
      new URL(`api/v1/sites/${key}/surveys/${data.number}/progress`, `${stage.server}/`),
      { headers: { accept: 'text/event-stream', authorization: `Bearer ${stage.token}` } },
    );
    expect(answer.headers.get('content-type')).to.match(/^text\/event-stream/);
    const events = (await answer.text()).split('\n\n');
    expect(events.pop()).to.equal('');
    const read = events.map((event) => JSON.parse(event.replace(/^data: /, '')) as SurveyEvent);
    expect(read.at(-1)).to.have.nested.property('survey.state', 'done');
    expect(read.at(-1)).to.have.nested.property('survey.visited', 2);
  });

  it('refuses hosts that are none of the site’s, and says so at the field', async () => {
    const { key } = await started({ '/': '' });
    const failure = await stage.client
      .call('startSurvey', { params: { site: key }, body: { host: 'elsewhere.example' } })
      .catch((error: unknown) => error);
    expect(failure).to.have.nested.property('problem.errors[0].pointer', '/host');
    const none = await stage.client
      .call('listSightings', { params: { site: key, survey: 'latest' }, query: {} })
      .catch((error: unknown) => error as Error);
    expect((none as Error).message).to.match(/^No survey of "walk-\d+" has finished yet/);
  });
});
