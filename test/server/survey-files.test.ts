import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, ownSite, survey, type Answer, type OwnSite } from '../support/surveys.js';

describe('the files that a site’s pages load', function () {
  this.timeout(60_000);
  const key = 'files';
  const elsewhere: Record<string, string | Answer> = {};
  let stage: Stage;
  let site: OwnSite;
  let provider: OwnSite;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    provider = await ownSite(elsewhere);
    const base = `http://provider.localhost:${provider.port}`;
    site = await ownSite({
      '/': `<head><title>t</title><script src="/theme.js"></script></head><body><script async src="${base}/count.js"></script><img width="1" height="1" src="${base}/pixel.gif"><iframe src="${base}/frame"></iframe></body>`,
      '/theme.js': (_, response) => {
        response.writeHead(200, { 'content-type': 'text/javascript', etag: '"theme"' });
        response.end('var themeMenu = { open: function () {} };');
      },
    });
    elsewhere['/count.js'] = script("document.cookie = 'visit=1';", { 'set-cookie': 'sent=1; Path=/' });
    await addSite(stage, key, site.port);
    await survey(stage, key);
  });

  after(async () => {
    site.close();
    provider.close();
    await stage.close();
  });

  const script =
    (code: string, headers: Record<string, string> = {}): Answer =>
    (_, response) =>
      response.writeHead(200, { 'content-type': 'text/javascript', ...headers }).end(code);

  const changes = async (): Promise<readonly string[]> => {
    const params = { site: key, survey: 'latest' as const };
    return (await stage.client.call('showSurveyChanges', { params })).data.lines;
  };

  it('are asked for once each, without saying who asks; what would count as a visit is not', () => {
    expect([site.count('/theme.js'), provider.count('/count.js')]).to.deep.equal([1, 1]);
    expect(provider.asked.map(({ path }) => path)).to.deep.equal(['/count.js']);
    const { headers } = provider.asked[0]!;
    expect(headers).to.not.have.any.keys('cookie', 'referer', 'authorization', 'x-forwarded-host');
  });

  it('tell the checks which names a page brings', async () => {
    const add = (name: string, code: string) =>
      stage.client.call('createSnippet', {
        params: { site: key },
        body: { name, state: 'on', parts: [{ code, placement: 'body-end' }] },
      });
    await add('Open menu', '<script>themeMenu.open();</script>');
    await add('Old gallery', '<script>galleryOf.show();</script>');
    const { data } = await stage.client.call('listFindings', {
      params: { site: key },
      query: { of: 'draft' },
    });
    expect(data.items.map(({ title }) => title)).to.deep.equal([
      '“Old gallery” needs “galleryOf”, which nothing defines',
    ]);
  });

  it('are told in the history where they have changed, and what they do since', async () => {
    await survey(stage, key);
    expect(site.asked.filter(({ path }) => path === '/theme.js').at(-1)!.headers['if-none-match']).to.equal(
      '"theme"',
    );
    expect((await changes())[0]).to.include('Nothing has changed');
    elsewhere['/count.js'] = script("document.cookie = 'visit=1'; document.cookie = 'day=2';", {
      'last-modified': 'Wed, 03 Mar 2027 09:00:00 GMT',
      'set-cookie': 'sent=1; Path=/',
    });
    await survey(stage, key);
    expect(await changes()).to.deep.equal([
      'The file provider.localhost/count.js changed on 3 March 2027. Since then it sets one cookie more: day.',
    ]);
  });

  it('are findings where they are gone', async () => {
    const code = `<script src="http://provider.localhost:${provider.port}/count.js"></script>`;
    await stage.client.call('createSnippet', {
      params: { site: key },
      body: { name: 'Count', state: 'on', parts: [{ code, placement: 'body-end' }] },
    });
    delete elsewhere['/count.js'];
    await survey(stage, key);
    expect(await changes()).to.deep.equal([
      'The file provider.localhost/count.js can no longer be loaded: its server answers with 404.',
    ]);
    const { data } = await stage.client.call('listFindings', {
      params: { site: key },
      query: { of: 'draft' },
    });
    expect(data.items.map(({ title }) => title)).to.include('“Count” loads a file that does not exist');
  });

  it('of the site itself are asked for as its pages are: by robots.txt, and so far apart as it asks', async () => {
    const own = await ownSite({
      '/robots.txt': (_, response) =>
        response
          .writeHead(200, { 'content-type': 'text/plain' })
          .end('User-agent: *\nDisallow: /private\nCrawl-delay: 0.4'),
      '/': '<script src="/private/a.js"></script><script src="/b.js"></script><script src="/c.js"></script>',
      '/b.js': script(''),
      '/c.js': script(''),
    });
    await addSite(stage, 'mannered', own.port);
    await survey(stage, 'mannered');
    expect(own.count('/private/a.js')).to.equal(0);
    const [b, c] = ['/b.js', '/c.js'].map((path) => own.asked.find((one) => one.path === path)!.at);
    expect(Math.abs(b! - c!)).to.be.at.least(300);
    own.close();
  });

  it('are bounded: one that is endless, one that does not answer, one that redirects in a circle', async () => {
    const own = await ownSite({
      '/': '<script src="/long.js"></script><script src="/round.js"></script><script src="/cut.js"></script><script src="/bad.js"></script>',
      '/long.js': (_, response) => {
        response.writeHead(200, { 'content-type': 'text/javascript' });
        const line = `${'/* long */'.repeat(10_000)}\n`;
        const more = (): void => {
          while (!response.destroyed && response.write(line));
          if (!response.destroyed) response.once('drain', more);
        };
        more();
      },
      '/round.js': (_, response) => response.writeHead(302, { location: '/round.js' }).end(),
      '/cut.js': (request) => request.socket.destroy(),
      '/bad.js': script('function half( {'),
    });
    await addSite(stage, 'bounded-files', own.port);
    expect((await survey(stage, 'bounded-files')).state).to.equal('done');
    own.close();
  });
});
