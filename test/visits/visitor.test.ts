import { execFileSync } from 'node:child_process';
import { lookup } from 'node:dns';
import { setTimeout as sleep } from 'node:timers/promises';
import { expect } from 'chai';
import type { BrowserContext, Page } from 'playwright-core';
import type { LoadEvidence } from '@pragmatica/core';
import { BrowserPool, FreshWindows, startChromium, type StartedChromium } from '@pragmatica/visitor';
import {
  beacon,
  PAGE,
  script,
  status,
  verdict,
  visitedSite,
  type VisitedSite,
} from '../support/visited-site.js';

const BANNER = `<div id="ask" style="position:fixed;bottom:0;left:0;right:0;background:#fff">We use cookies for statistics.
  <button onclick="document.cookie='agreed=yes;path=/';document.getElementById('ask').remove()">Accept all</button>
  <button onclick="document.cookie='agreed=no;path=/';document.getElementById('ask').remove()">Only necessary</button></div>`;
const asking = PAGE.replace('</body>', `${BANNER}</body>`);
const consent = {
  cookie: 'agreed',
  categories: [{ key: 'visits', name: 'Visits', value: 'yes' }],
  format: { kind: 'list' },
} as const;
const open = { do: 'open', path: '/' } as const;

describe('a visit', function () {
  this.timeout(60_000);
  let site: VisitedSite;

  before(async () => {
    site = await visitedSite();
  });

  beforeEach(() => (site.answers = {}));
  after(() => site.close());

  it('accepts and refuses by the banner’s own buttons, and finds what waits for that', async () => {
    const counter = {
      key: 'counter',
      limits: { consent: ['visits'] },
      code: '<script src="http://tidecount.localhost:PORT/count.js"></script>',
    };
    site.answers = {
      'tidecount.localhost/count.js': script(
        "new Image().src='http://tidecount.localhost:'+location.port+'/hit?a=1'",
      ),
      'tidecount.localhost/hit': beacon,
    };
    const wish = { snippets: [counter], page: asking, consent };
    const accepted = await site.visit({
      ...wish,
      script: { steps: [open, { do: 'consent', choice: 'accept' }, open] },
    });
    expect(accepted.evidence.steps.map(({ isDone, note }) => [isDone, note])).to.deep.equal([
      [true, undefined],
      [true, 'Accept all'],
      [true, undefined],
    ]);
    expect([verdict(accepted, 'counter', 0), verdict(accepted, 'counter', 1)]).to.deep.equal([
      'left-out',
      'well',
    ]);
    const refused = await site.visit({
      ...wish,
      script: { steps: [open, { do: 'consent', choice: 'refuse' }, open] },
    });
    expect(refused.evidence.steps[1]).to.include({ isDone: true, note: 'Only necessary' });
    expect(verdict(refused, 'counter', 1)).to.equal('left-out');
    expect(refused.judged[0]!.stages.map(({ stage }) => stage)).to.deep.equal(['before', 'refused']);
  });

  it('says that there is no banner, and goes on', async () => {
    const { evidence } = await site.visit({
      snippets: [],
      script: { steps: [{ ...open }, { do: 'consent', choice: 'accept' }, open] },
    });
    expect(evidence.steps.map(({ isDone }) => isDone)).to.deep.equal([true, false, true]);
    expect(evidence.loads).to.have.length(2);
  });

  it('waits, scrolls, leaves and comes back as visitors’ conditions ask, and not before', async () => {
    const waiting = (key: string, visitor: object) => ({
      key,
      code: `<script>window.done_${key}=1</script>`,
      at: 'body-end' as const,
      limits: { visitor },
    });
    const long = PAGE.replace('</body>', '<div style="height:4000px"></div></body>');
    const snippets = [
      waiting('late', { afterSeconds: 6 }),
      waiting('deep', { afterScroll: 80 }),
      waiting('leaving', { onLeaving: true }),
      waiting('back', { who: 'returning' }),
    ];
    const quick = await site.visit({ snippets, page: long });
    expect(quick.evidence.loads[0]!.globals.filter((name) => name.startsWith('done_'))).to.deep.equal([]);
    expect(snippets.map(({ key }) => verdict(quick, key))).to.deep.equal([
      'waits',
      'waits',
      'waits',
      'waits',
    ]);
    const all = await site.visit({
      snippets,
      page: long,
      script: {
        steps: [
          open,
          { do: 'return', path: '/', days: 1 },
          { do: 'wait', seconds: 6 },
          { do: 'scroll', percent: 90 },
          { do: 'leave' },
        ],
      },
    });
    expect(snippets.map(({ key }) => verdict(all, key))).to.deep.equal(['well', 'well', 'well', 'well']);
    expect(all.evidence.loads[1]!.visitor).to.equal('returning');
  });

  it('sets the clock of the page, which goes on from there', async () => {
    const clock = Date.UTC(2030, 0, 15, 12);
    const { evidence } = await site.visit({
      snippets: [
        {
          key: 'k',
          code: '<script>console.info(new Date().getFullYear()+" "+(new Date instanceof Date)+" "+Date().slice(11,15))</script>',
        },
      ],
      script: { clock },
    });
    expect(evidence.loads[0]!.console.map(({ text }) => text)).to.include('2030 true 2030');
  });

  it('tells the devices apart, by agent, hints and window', async () => {
    const seen: Record<string, string | undefined>[] = [];
    site.answers = {
      'ferries.localhost/': (request, response) => {
        seen.push({
          agent: request.headers['user-agent'],
          mobile: String(request.headers['sec-ch-ua-mobile']),
        });
        response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE);
      },
    };
    for (const device of ['phone', 'tablet', 'desktop'] as const)
      await site.visit({ snippets: [], script: { device } });
    expect(seen.map(({ mobile }) => mobile)).to.deep.equal(['?1', '?0', '?0']);
    expect(seen[0]!['agent']).to.match(/Android.*Mobile/);
    expect(seen[1]!['agent']).to.match(/Android(?!.*Mobile)/);
    expect(seen[2]!['agent']).to.not.match(/Android/);
  });

  it('says who stored what, and who keeps the page from answering', async () => {
    site.answers = {
      'tidecount.localhost/count.js': script(
        'document.cookie="tide=1;path=/";sessionStorage.setItem("t","1");var end=performance.now()+400;while(performance.now()<end);',
      ),
    };
    const { judged } = await site.visit({
      snippets: [
        { key: 'counter', code: '<script src="http://tidecount.localhost:PORT/count.js" defer></script>' },
      ],
      headers: { 'set-cookie': 'session=abc; path=/' },
    });
    const [{ disclosures }] = judged[0]!.stages as [(typeof judged)[0]['stages'][0]];
    expect(
      disclosures.map(({ snippet, stored }) => [snippet, stored.map(({ where, key }) => `${where} ${key}`)]),
    ).to.deep.equal([
      [null, ['cookie session']],
      ['counter', ['cookie tide', 'sessionStorage t']],
    ]);
    const weight = judged[0]!.weights.find(({ snippet }) => snippet === 'counter');
    expect(weight!.blockingMs).to.be.greaterThan(200);
  });

  it('lays none of our own looking to a page, however much there is to look at', async () => {
    const much = PAGE.replace('</body>', `${'<i><b>quay</b></i>'.repeat(10_000)}</body>`);
    const { evidence } = await site.visit({ snippets: [], page: much });
    const [{ endMs, longTasks }] = evidence.loads as [LoadEvidence];
    expect(longTasks).to.not.deep.equal([]);
    // What the page itself does was over when it had come to rest, which takes longer than this.
    for (const { atMs } of longTasks) expect(atMs).to.be.below(endMs - 200);
  });

  it('reads what stands in boxes of their own apart, and nothing that is hidden', async () => {
    const banner =
      '<div id="ask" style="position:fixed;bottom:0">May we <b>cou</b>nt?<br>Say so.<button>Yes</button><button>No</button>' +
      '<style>#ask{color:#222}</style><i hidden>Later</i><p>Thanks</p></div>';
    const { evidence } = await site.visit({
      snippets: [],
      page: PAGE.replace('</body>', `${banner}</body>`),
    });
    const asks = evidence.loads[0]!.elements.find(({ selector }) => selector === '#ask');
    expect(asks!.text).to.equal('May we count? Say so. Yes No Thanks');
  });

  it('opens no page of anybody else, and asks nobody else where it may not', async () => {
    const asked: string[] = [];
    const noting =
      (name: string) => (_: unknown, response: { writeHead: (code: number) => { end: () => void } }) => {
        asked.push(name);
        response.writeHead(204).end();
      };
    site.answers = { 'elsewhere.localhost/': noting('page'), 'tidecount.localhost/p.gif': noting('picture') };
    const leaving = await site.visit({
      snippets: [
        { key: 'leave', code: '<script>location.href="http://elsewhere.localhost:PORT/"</script>' },
        { key: 'pic', at: 'body-end', code: '<img src="http://tidecount.localhost:PORT/p.gif" alt="">' },
      ],
      order: { thirdParties: { usual: 'blocked', hosts: [] } },
    });
    expect(asked).to.deep.equal([]);
    expect(leaving.evidence.loads.map(({ status: one }) => one)).to.include(200);
  });

  it('gives what lets it in to its own host alone', async () => {
    const seen: Record<string, unknown>[] = [];
    site.answers = {
      'ferries.localhost/': (request, response) => {
        seen.push({ host: 'own', let: request.headers['x-let-me'] });
        response
          .writeHead(200, { 'content-type': 'text/html' })
          .end(PAGE.replace('</body>', `<img src="http://other.localhost:${site.port}/p.gif"></body>`));
      },
      'other.localhost/p.gif': (request, response) => {
        seen.push({ host: 'other', let: request.headers['x-let-me'] });
        response.writeHead(204).end();
      },
    };
    await site.visit({ snippets: [], order: { access: { 'x-let-me': 'in' } } });
    expect(seen).to.deep.equal([
      { host: 'own', let: 'in' },
      { host: 'other', let: undefined },
    ]);
  });

  it('says what a page without an answer is, and ends a visit in its time', async () => {
    site.answers = { 'ferries.localhost/': () => undefined };
    const { evidence } = await site.visit({ snippets: [], order: { timeoutMs: 3_000 } });
    expect(evidence.failure).to.equal('timeout');
    site.answers = { 'ferries.localhost/': status(500, 'text/html', '<p>no') };
    expect((await site.visit({ snippets: [] })).evidence.loads[0]!.status).to.equal(500);
  });

  it('takes a picture of the window', async () => {
    site.answers = {};
    const { screenshots } = await site.visit({ snippets: [] });
    expect(screenshots[0]!.subarray(0, 3).toString('hex')).to.equal('ffd8ff');
    expect((await site.visit({ snippets: [], order: { noScreenshot: true } })).screenshots).to.deep.equal([]);
  });

  it('outlives a page that takes its process down: the next visit finds everything as it was', async () => {
    const eater =
      '<script>var all=[];setTimeout(function(){for(;;)all.push(new Array(1e6).fill(Math.random()))},50)</script>';
    const { evidence } = await site.visit({ snippets: [{ key: 'eater', code: eater }] });
    expect(evidence.failure ?? (evidence.loads.at(-1)!.isHung ? 'hung' : 'none')).to.match(
      /crashed|hung|timeout/,
    );
    expect((await site.visit({ snippets: [] })).evidence.failure).to.equal(null);
  });
});

describe('windows of visits', function () {
  this.timeout(30_000);
  let started: StartedChromium;
  let windows: FreshWindows;

  before(async () => {
    started = await startChromium({ executable: process.env['PRAGMATICA_CHROMIUM'] });
  });
  beforeEach(() => {
    windows = new FreshWindows(started.browser);
  });
  afterEach(() => Promise.all(started.browser.contexts().map((context) => context.close())));
  after(() => started.close());

  const widthOf = (context: BrowserContext): number => context.pages()[0]?.viewportSize()?.width ?? 0;

  /** Until the browser has so many profiles whose windows are so wide. */
  async function profiles(count: number, width: number): Promise<readonly BrowserContext[]> {
    for (;;) {
      const all = started.browser.contexts().filter((context) => widthOf(context) === width);
      if (all.length === count) return all;
      await sleep(20);
    }
  }

  it('are opened ahead, one of a shape, and are used by one visit each', async () => {
    const first = await windows.take({ device: 'phone', width: 400 });
    const [, ahead] = await profiles(2, 400);
    const second = await windows.take({ device: 'phone', width: 400 });
    expect(second.context).to.equal(ahead);
    expect(second.token).to.not.equal(first.token);
    expect(second.page.url()).to.equal('about:blank');
    await profiles(3, 400);
    const desktop = await windows.take({ device: 'desktop', width: 400 });
    expect(await desktop.page.evaluate('navigator.maxTouchPoints')).to.equal(0);
  });

  it('are few: the oldest that nobody needed is closed', async () => {
    for (const width of [610, 620, 630, 640]) {
      await windows.take({ device: 'desktop', width });
      await profiles(2, width);
    }
    await profiles(1, 610);
    for (const width of [620, 630, 640]) await profiles(2, width);
  });

  it('are given to nobody once they have crashed', async () => {
    const wish = { device: 'desktop', width: 500 } as const;
    const first = await windows.take(wish);
    const spare = (await profiles(2, 500)).find((context) => context !== first.context)!;
    const [page] = spare.pages() as [Page];
    // Its crash is known to whoever opened it only when it is ready.
    await page.evaluate('1');
    const crashed = new Promise((resolve) => page.once('crash', resolve));
    page.goto('chrome://crash').catch(() => undefined);
    await crashed;
    expect((await windows.take(wish)).context).to.not.equal(spare);
  });
});

describe('the browser of visits', function () {
  this.timeout(60_000);

  it('gets nothing of our environment, and is nobody where it can be', async () => {
    process.env['PRAGMATICA_TEST_SECRET'] = 'not for browsers';
    const started = await startChromium({ executable: process.env['PRAGMATICA_CHROMIUM'] });
    try {
      const environments = execFileSync('sh', [
        '-c',
        'for p in $(pgrep chrom); do tr "\\0" "\\n" < /proc/$p/environ 2>/dev/null; done; true',
      ]).toString();
      expect(environments).to.not.include('not for browsers');
      if (process.getuid?.() === 0) expect(started.isOtherUser).to.equal(true);
      expect(started.isSandboxed).to.equal(true);
    } finally {
      delete process.env['PRAGMATICA_TEST_SECRET'];
      await started.close();
    }
  });

  it('reaches nothing that its proxy does not let it, whatever a page asks for', async () => {
    const site = await visitedSite();
    const pool = new BrowserPool({
      executable: process.env['PRAGMATICA_CHROMIUM'],
      guard: {
        lookup: (hostname, options, callback) => {
          if (hostname === 'inner.localhost') {
            const error = new Error('private');
            error.name = 'LocalAddressError';
            callback(error, '', 4);
          } else lookup('127.0.0.1', options, callback as never);
        },
        mayAsk: (hostname) => hostname !== '127.0.0.1',
      },
    });
    try {
      let reached = 0;
      site.answers = {
        'inner.localhost/a.js': (_, response) => {
          reached++;
          response.writeHead(200, { 'content-type': 'text/javascript' }).end('1');
        },
        'ferries.localhost/': (_, response) =>
          void response
            .writeHead(200, { 'content-type': 'text/html' })
            .end(
              `<!doctype html><title>x</title><script src="http://inner.localhost:${site.port}/a.js"></script><img src="http://127.0.0.1:${site.port}/b.gif"><p>text</p>`,
            ),
      };
      const { evidence } = await pool.visit({
        address: `http://ferries.localhost:${site.port}`,
        ownOrigins: [],
        script: { device: 'desktop', steps: [{ do: 'open', path: '/' }] },
        thirdParties: { usual: 'real', hosts: [] },
      });
      const [load] = evidence.loads;
      expect(load!.status).to.equal(200);
      expect(reached).to.equal(0);
      expect(load!.requests.slice(1).map(({ failure }) => failure)).to.deep.equal(['forbidden', 'forbidden']);
    } finally {
      await pool.close();
      await site.close();
    }
  });
});
