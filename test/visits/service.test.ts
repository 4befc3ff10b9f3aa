import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { hasDeferred, parseWeekly, type Har } from '@pragmatica/core';
import { expect } from 'chai';
import { XMLValidator } from 'fast-xml-parser';
import { BINARY, cliRunner, type RunCli } from '../support/cli.js';
import { eventually } from '../support/http.js';
import { ADMIN } from '../support/stage.js';
import { plain, SITE, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

const PAGE =
  '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quay</title></head><body><h1>Ferries</h1><p>Between three islands.</p><p><a href="/fares">Fares</a></p></body></html>';
const params = { site: SITE };
const counter = plain('counter', '<script async src="http://tidecount.localhost:PORT/count.js"></script>', {
  name: 'Tide counter',
});
const chat = plain('chat', '<script async src="http://quaychat.localhost:PORT/chat.js"></script>', {
  name: 'Quay chat',
});
const ANSWERS = {
  '/': PAGE,
  '/fares': PAGE,
  'tidecount.localhost/count.js': "new Image().src=new URL('/hit?a=TC-77',document.currentScript.src)",
  'tidecount.localhost/hit': (_: unknown, response: { writeHead: (code: number) => { end: () => void } }) => {
    response.writeHead(204).end();
  },
  'quaychat.localhost/chat.js':
    "var b=document.createElement('button');b.textContent='Chat with us';b.style.cssText='position:fixed;right:20px;bottom:20px';document.body.appendChild(b)",
} as const;

describe('visits by the service', function () {
  this.timeout(120_000);
  let site: VisitedStage;
  let folder: string;
  let cli: RunCli;

  before(async () => {
    site = await startVisitedStage();
    site.answers = ANSWERS;
    await site.publish([counter, chat]);
    folder = mkdtempSync(path.join(tmpdir(), 'pragmatica-visits-'));
    cli = cliRunner(() => site.stage.server, folder);
    await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
  });

  after(async () => {
    await site.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('find a healthy site well, page by page and device by device', async () => {
    const { round, visits, summary } = await site.verify({ pages: ['/', '/fares'] });
    expect(round).to.include({ state: 'done', planned: 4, done: 4, release: 1, isRehearsal: false });
    expect(round.browser).to.match(/^Chromium \d+/);
    expect(visits.map(({ path: at, device }) => `${at} ${device}`)).to.have.members([
      '/ desktop',
      '/ phone',
      '/fares desktop',
      '/fares phone',
    ]);
    expect(
      summary.isWell,
      JSON.stringify(summary.snippets.map(({ problems, intruder }) => [problems, intruder])),
    ).to.equal(true);
    expect(
      summary.snippets.map(({ snippet, devices }) => [snippet, devices.map(({ rungs }) => rungs.reported)]),
    ).to.deep.equal([
      ['counter', ['reached', 'reached']],
      ['chat', ['none', 'none']],
    ]);
  });

  it('are told to each reader in their language, also what was found long ago', async () => {
    const { stage } = site;
    const spoken = (locale: string) =>
      createClient({ server: stage.server, token: stage.token, locale, fetch: localhostFetch });
    const see = async (client: ApiClient) => {
      const round = { params: { ...params, round: 'latest' } };
      const { visits } = (await client.call('showVisitRound', round)).data;
      const visit = (await client.call('showVisit', { params: { ...round.params, visit: 1 } })).data;
      return { title: visits[0]!.title, because: visits[0]!.because, judged: JSON.stringify(visit.loads) };
    };
    const [here, there] = [await see(spoken('en-GB')), await see(spoken('de-DE'))];
    expect(here.title).to.match(/desktop|phone/i);
    expect(there.title).not.to.equal(here.title);
    expect(there.because).not.to.equal(here.because);
    // What is kept for readers of any is shown to none.
    for (const text of [...Object.values(here), ...Object.values(there)])
      expect(hasDeferred(text)).to.equal(false);
  });

  it('keep what was seen: requests with their owners, a picture, an archive', async () => {
    const { data } = await site.stage.client.call('showVisit', {
      params: { ...params, round: 'latest', visit: 1 },
    });
    const [load] = data.loads;
    const owners = Object.fromEntries(
      load!.requests.map(({ url, owner }) => [
        new URL(url).pathname,
        [owner.snippet, (owner.via ?? []).length],
      ]),
    );
    expect(owners).to.deep.equal({
      '/': [null, 0],
      '/count.js': ['counter', 0],
      '/chat.js': ['chat', 0],
      '/hit': ['counter', 1],
    });
    expect(load!.elements.map(({ text, owner }) => [text, owner.snippet])).to.deep.equal([
      ['Chat with us', 'chat'],
    ]);
    const { data: picture } = await site.stage.client.call('showScreenshot', {
      params: { ...params, round: data.round, visit: 1, screenshot: load!.screenshot! },
    });
    expect(Buffer.from(picture.data, 'base64').subarray(0, 3).toString('hex')).to.equal('ffd8ff');
    const { data: har } = await site.stage.client.call('exportHar', {
      params: { ...params, round: data.round, visit: 1 },
    });
    expect((har.log['entries'] as object[]).length).to.equal(load!.requests.length);
  });

  it('say what is not there', async () => {
    const refused = async (work: Promise<unknown>): Promise<string> =>
      work.then(
        () => 'answered',
        (error: unknown) => (error as Error).message,
      );
    const { client } = site.stage;
    expect(await refused(client.call('showVisitRound', { params: { ...params, round: 999 } }))).to.include(
      'no round 999',
    );
    expect(
      await refused(client.call('showVisit', { params: { ...params, round: 'latest', visit: 99 } })),
    ).to.include('no visit 99');
    expect(
      await refused(client.call('startVisits', { params, body: { host: 'elsewhere.example' } })),
    ).to.include('elsewhere.example');
    expect(
      await refused(
        client.call('startVisits', {
          params,
          body: { environment: 'staging', host: 'quay.localhost', pages: ['no-slash'] },
        }),
      ),
    ).to.include('slash');
  });

  it('are called off by whoever wants, and what was made stays', async () => {
    const { client } = site.stage;
    const { data } = await client.call('startVisits', {
      params,
      body: { pages: Array.from({ length: 20 }, (_, index) => `/p${index}`) },
    });
    const events = client.stream('watchVisits', { params: { ...params, round: data.number } });
    for await (const event of events) if (event.type === 'visit') break;
    const { data: cancelled } = await client.call('cancelVisits', {
      params: { ...params, round: data.number },
    });
    expect(cancelled.state).to.equal('cancelled');
    expect(cancelled.done).to.be.within(1, 39);
  });

  it('survive a page that takes the browser’s time: it costs only itself', async () => {
    site.answers = {
      ...ANSWERS,
      '/spin': '<!doctype html><title>x</title><p>x</p><script>setTimeout(function(){for(;;);},30)</script>',
    };
    const { round, visits } = await site.verify({ pages: ['/spin', '/'], devices: ['desktop'] });
    expect(round.state).to.equal('done');
    expect(visits.find(({ path: at }) => at === '/')).to.include({ state: 'done', failure: null });
    const spinning = visits.find(({ path: at }) => at === '/spin')!;
    const { data } = await site.stage.client.call('showVisit', {
      params: { ...params, round: round.number, visit: spinning.number },
    });
    expect(data.loads[0]!.isHung).to.equal(true);
    site.answers = ANSWERS;
  });

  it('answer why: at once where settings tell, by a visit where they do not', async () => {
    const visited = await site.why({ snippet: 'chat', path: '/' });
    expect(visited.map(({ type }) => type)).to.deep.equal(['settings', 'visiting', 'answer']);
    expect(visited.at(-1)!.answer).to.include({ isWell: true });
    expect(visited.at(-1)!.answer!.sentence).to.include('“Chat with us”');
    const quick = await site.why({ snippet: 'chat', path: '/', visit: false });
    expect(quick.map(({ type, answer }) => [type, answer!.isWell])).to.deep.equal([['settings', null]]);
    site.answers = {
      ...ANSWERS,
      'quaychat.localhost/chat.js': (_, response) => void response.writeHead(403).end(),
    };
    const [, , broken] = await site.why({ snippet: 'chat', path: '/' });
    expect(broken!.answer!.cause).to.include({ id: 'refused', who: 'provider' });
    expect(broken!.answer!.stopsAt).to.equal('loaded');
    site.answers = ANSWERS;
  });

  it('look at another time, as the page would be then', async () => {
    await site.publish([counter, { ...chat, limits: { hours: { weekly: parseWeekly('Mon 10:00-11:00') } } }]);
    const open = await site.why({ snippet: 'chat', path: '/', at: '2031-03-03T10:30' });
    expect(open.at(-1)!.answer, JSON.stringify(open.at(-1))).to.include({ isWell: true });
    const closed = await site.why({ snippet: 'chat', path: '/', at: '2031-03-03T11:30' });
    expect(closed).to.have.length(1);
    expect(closed[0]!.answer!.cause!.id).to.equal('hours');
    await site.publish([counter, chat]);
  });

  it('rehearse a draft that nobody else gets', async () => {
    await site.draft([
      counter,
      plain('chat', '<script src="http://quaychat.localhost:PORT/gone.js"></script>', { name: 'Quay chat' }),
    ]);
    const { round, summary } = await site.verify({ pages: ['/'], devices: ['desktop'], draft: true });
    expect(round.isRehearsal).to.equal(true);
    const chatFound = summary.snippets.find(({ snippet }) => snippet === 'chat')!;
    expect(chatFound.problems.map(({ cause }) => cause.id)).to.deep.equal(['no-such-file']);
    const live = await site.verify({ pages: ['/'], devices: ['desktop'] });
    expect(live.summary.isWell).to.equal(true);
    await site.draft([counter, chat]);
  });

  it('are a command: a table, JUnit, archives, and a status', async () => {
    const well = await cli(['verify', '--browser', '/', '--site', SITE, '--har', 'out']);
    expect(well.code, well.err).to.equal(0);
    expect(well.out).to.match(/SNIPPET +DEVICE +DELIVERED +LOADED +RAN +SHOWN +REPORTED/);
    expect(well.out).to.match(/counter +desktop +✓ +✓ +✓ +– +✓ +Tide counter/);
    const files = readdirSync(path.join(folder, 'out'));
    expect(files).to.have.length(2);
    expect(
      (JSON.parse(readFileSync(path.join(folder, 'out', files[0]!), 'utf8')) as Har).log.version,
    ).to.equal('1.2');
    site.answers = {
      ...ANSWERS,
      'tidecount.localhost/hit': (_, response) => void response.writeHead(403).end(),
    };
    const broken = await cli([
      'verify',
      '--browser',
      '/',
      '--site',
      SITE,
      '--device',
      'desktop',
      '--format',
      'junit',
    ]);
    expect(broken.code).to.equal(1);
    expect(XMLValidator.validate(broken.out)).to.equal(true);
    expect(broken.out).to.match(
      /<testcase name="Reported \(desktop\)" classname="pragmatica\.verify\.counter" time="0">\s*<failure/,
    );
    expect((await cli(['verify', '--all', '--site', SITE])).err).to.include('--all goes with --browser.');
    expect((await cli(['verify', '--browser', '--device', 'watch', '--site', SITE])).err).to.include(
      '“watch”',
    );
  });

  it('are made again after each release, until somebody has seen enough', async () => {
    const environment = { ...process.env, HOME: folder, XDG_CONFIG_HOME: folder };
    const child = spawn(process.execPath, [BINARY, 'verify', '/', '--site', SITE, '--watch'], {
      env: { ...environment, PRAGMATICA_SERVER: site.stage.server },
    });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text: Buffer) => (said += text.toString()));
    const ended = once(child, 'exit');
    await eventually(() => expect(said).to.include('Waiting for the next release'), 20_000);
    expect(said).not.to.include('Once more');
    await site.publish([chat]);
    await eventually(() => expect(said.split('Waiting for the next release')).to.have.length(3), 20_000);
    expect(said).to.include('There is another release on live. Once more:');
    child.kill('SIGINT');
    expect((await ended)[0]).to.equal(0);
    await site.publish([counter, chat]);
  });

  it('are told as they were: rounds, one round, one visit', async () => {
    const rounds = await cli(['visits', '--site', SITE]);
    expect(rounds.out).to.match(/ROUND +STARTED +HOST +RELEASE +STATE +VISITS/);
    const latest = await cli(['visits', 'latest', '--site', SITE]);
    expect(latest.out).to.include('Its report to tidecount.localhost was refused (403).');
    const one = await cli([
      'visit',
      'latest/1',
      '--site',
      SITE,
      '--screenshot',
      'one.jpg',
      '--har',
      'one.har',
    ]);
    expect(one.code, one.err).to.equal(0);
    expect(one.out)
      .to.include('opens /')
      .and.match(/403 +image +Tide counter/);
    expect(readFileSync(path.join(folder, 'one.jpg')).subarray(0, 3).toString('hex')).to.equal('ffd8ff');
    expect((await cli(['visit', 'one', '--site', SITE])).err).to.include('12/3');
  });

  it('are asked why on the command line, of a snippet and of a page', async () => {
    const snippet = await cli(['why', 'counter', '/', '--site', SITE]);
    expect(snippet.code).to.equal(1);
    expect(snippet.out).to.include('✓ Loaded').and.include('✗ Reported').and.include('Who: the provider');
    const page = await cli(['why', '/', '--site', SITE]);
    expect(page.code).to.equal(1);
    expect(page.out).to.include('“Tide counter” does not get as far as it should');
    site.answers = ANSWERS;
    expect((await cli(['why', '/', '--site', SITE])).out).to.include(
      'Nothing is wrong on /: all 2 snippets work',
    );
    expect((await cli(['why', '/', '--site', SITE, '--consent', 'all'])).err).to.include(
      '--consent asks about a snippet',
    );
    expect((await cli(['why', 'counter', '/', '--site', SITE, '--twice'])).err).to.include(
      'leave the snippet out',
    );
    expect((await cli(['why', 'nothing', '/', '--site', SITE])).code).to.equal(4);
  });
});
