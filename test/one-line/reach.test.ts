import type { ReleasePlanner } from '@pragmatica/core';
import {
  compileLine,
  deviceOf,
  grantedConsent,
  lineHours,
  pageAddress,
  parseWeekly,
  planPage,
  type ConsentRules,
  type Limits,
  type PageRules,
  type Placement,
  type Snapshot,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import type { Browser, BrowserContextOptions, Page } from 'playwright-core';
import { useLineSite, type LineSite } from '../support/line-site.js';
import { propertyRuns } from '../support/property-runs.js';
import { part, set, snippet } from '../support/sets.js';

const CONSENT: ConsentRules = {
  categories: [
    { key: 'adverts', name: 'Adverts' },
    { key: 'visits', name: 'Visits', value: 'stats' },
  ],
  cookie: 'agreed',
  format: { kind: 'list' },
};
const IN_JSON: ConsentRules = { ...CONSENT, format: { kind: 'json', path: "$.choices['v 2']" } };
const NOTES = (key: string): string => `<script>(window.heard??=[]).push('${key}')</script>`;
const PAGE = `<!DOCTYPE html><html><head><!--line--><title>t</title></head><body><p>one</p></body></html>`;
/** Anything may be asked of the reaches with these pages. */
const PATHS = ['/', '/fares', '/booking/', '/booking/done', '/Booking', '/fares?day=2', '/caf%C3%A9'];

function setOf(
  reaches: Readonly<Record<string, { pages?: Partial<PageRules>; limits?: Limits }>>,
  site = {},
): Snapshot {
  const snippets = Object.entries(reaches).map(([key, { pages = {}, limits }], rank) =>
    snippet(key, {
      pages: { include: [], exclude: [], ...pages },
      ...(limits ? { limits } : {}),
      parts: [part('body-end', rank, NOTES(key))],
    }),
  );
  const base = set(...snippets);
  return { ...base, site: { ...base.site, ...site } };
}

describe('the one line’s reach', function () {
  this.timeout(60_000);
  let browser: Browser;
  let site: LineSite;

  const started = useLineSite();
  before(() => ({ browser, site } = started()));

  const address = (path: string): string => `http://localhost:${site.port}/order${path}`;
  const heard = (page: Page): Promise<string[]> =>
    page.evaluate(() => (window as unknown as { heard?: string[] }).heard ?? []);

  /** Waits until a page has heard of these, in any order, and is done with it. */
  async function settled(page: Page, keys: readonly string[]): Promise<void> {
    for (let tries = 0; (await heard(page)).length < keys.length && tries < 100; tries++)
      await page.waitForTimeout(20);
    expect((await heard(page)).sort()).to.deep.equal([...keys].sort());
  }

  async function open(
    path: string,
    { cookie, ...options }: BrowserContextOptions & { cookie?: string } = {},
  ): Promise<Page> {
    const context = await browser.newContext(options);
    if (cookie !== undefined)
      await context.addCookies([{ name: 'agreed', value: cookie, url: `http://localhost:${site.port}` }]);
    const page = await context.newPage();
    await page.goto(address(path), { waitUntil: 'load' });
    return page;
  }

  /** Keys of the parts that core plans for a load of the page, as the browser's address has it. */
  function planned(
    snapshot: Snapshot,
    path: string,
    load: Partial<Parameters<ReleasePlanner['plan']>[0]> = {},
  ): string[] {
    const page = pageAddress(`/order${path}`, 'localhost');
    return planPage(snapshot, {
      environment: 'live',
      device: 'desktop',
      consent: [],
      at: Date.now(),
      ...load,
      page,
    }).parts.map((one) => one.snippet);
  }

  it('is that of the plan, page by page', async () => {
    const snapshot = setOf(
      {
        all: {},
        fares: { pages: { include: ['/order/fares'] } },
        booking: { pages: { include: ['/order/booking/*'], exclude: ['/order/booking/done'] } },
        group: { pages: { include: ['@booked'] } },
        nowhere: { pages: { include: ['@gone'] } },
        search: { pages: { include: ['/order/*?day=:day'] } },
        host: { pages: { include: ['//localhost/*'] } },
        elsewhere: { pages: { include: ['//other.test/*'] } },
        letters: { pages: { include: ['/order/([a-z]+(?:/[a-z]+)*)'] } },
        accents: { pages: { include: ['/order/café'] } },
        live: { limits: { environment: 'live' } },
        staging: { limits: { environment: 'staging' } },
      },
      { pageGroups: [{ key: 'booked', name: 'Booked', patterns: ['/order/booking/done', '/order/fares'] }] },
    );
    site.use({ snapshot, pages: Object.fromEntries(PATHS.map((path) => [path.split('?')[0]!, PAGE])) });
    for (const path of PATHS) {
      const page = await open(path);
      expect(await heard(page), path).to.deep.equal(planned(snapshot, path));
      await page.context().close();
    }
  });

  const AGENTS = [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0.0.0 Safari/537.36',
    'Mozilla/5.0 (Macintosh; Intel Mac OS X 10.15; rv:140.0) Gecko/20100101 Firefox/140.0',
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile/15E148 Safari/604.1',
    'Mozilla/5.0 (iPad; CPU OS 16_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/16.0 Mobile/15E148 Safari/604.1',
    'Mozilla/5.0 (Android 14; Mobile; rv:140.0) Gecko/140.0 Firefox/140.0',
    'Mozilla/5.0 (Android 14; Tablet; rv:140.0) Gecko/140.0 Firefox/140.0',
    'Mozilla/5.0 (Linux; Android 13; SM-T870) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0.0.0 Safari/537.36',
    'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
  ];
  it('knows devices as the gateway does', async () => {
    const snapshot = setOf({
      phone: { limits: { devices: ['phone'] } },
      tablet: { limits: { devices: ['tablet'] } },
      desktop: { limits: { devices: ['desktop'] } },
      touched: { limits: { devices: ['phone', 'tablet'] } },
    });
    site.use({ snapshot, pages: { '/': PAGE } });
    for (const userAgent of AGENTS) {
      const context = await browser.newContext({ userAgent });
      // Only the text that all browsers have, as those without client hints.
      await context.addInitScript(() =>
        Object.defineProperty(navigator, 'userAgentData', { value: undefined }),
      );
      const page = await context.newPage();
      await page.goto(address('/'));
      const device = deviceOf({ 'user-agent': userAgent });
      expect(await heard(page), userAgent).to.deep.equal(planned(snapshot, '/', { device }));
      await context.close();
    }
  });

  for (const [rules, cookies] of [
    [CONSENT, ['', 'adverts', 'stats', 'adverts%2Cstats', '%22stats%20adverts%22', 'visits', 'nonsense%']],
    [
      IN_JSON,
      [
        '{}',
        '{"choices":{"v 2":["adverts"]}}',
        '{"choices":{"v 2":{"adverts":true,"stats":"granted"}}}',
        '{"choices":{"v 2":{"adverts":"denied","stats":1}}}',
        '{"choices":{"v 2":"stats, adverts"}}',
        '{"choices":[]}',
        'not json',
      ].map(encodeURIComponent),
    ],
  ] as const)
    it(`reads consent in a cookie as the gateway does (${rules.format.kind})`, async () => {
      const snapshot = setOf(
        {
          free: {},
          adverts: { limits: { consent: ['adverts'] } },
          visits: { limits: { consent: ['visits'] } },
          both: { limits: { consent: ['adverts', 'visits'] } },
          unknown: { limits: { consent: ['unknown'] } },
        },
        { consent: rules },
      );
      site.use({ snapshot, pages: { '/': PAGE } });
      for (const cookie of cookies) {
        const page = await open('/', cookie === '' ? {} : { cookie });
        const consent = grantedConsent(rules, `agreed=${cookie}`);
        expect(await heard(page), cookie).to.deep.equal(planned(snapshot, '/', { consent }));
        await page.context().close();
      }
    });

  it('runs what is agreed to later, once', async () => {
    const snapshot = setOf({ adverts: { limits: { consent: ['adverts'] } } }, { consent: CONSENT });
    site.use({ snapshot, pages: { '/': PAGE } });
    const page = await open('/');
    expect(await heard(page)).to.deep.equal([]);
    for (const agreed of ['adverts', 'adverts,stats']) {
      await page.evaluate((value) => (document.cookie = `agreed=${value}`), agreed);
      await page.waitForFunction(() => (window as unknown as { heard?: string[] }).heard?.length === 1);
      await page.waitForTimeout(600);
    }
    expect(await heard(page)).to.deep.equal(['adverts']);
    await page.context().close();
  });

  it('goes along with a single-page application, each part once', async () => {
    const snapshot = setOf({
      all: {},
      fares: { pages: { include: ['/order/fares'] } },
      done: { pages: { include: ['/order/booking/done'] } },
    });
    site.use({ snapshot, pages: { '/': PAGE } });
    const page = await open('/');
    for (const path of ['/order/fares', '/order/', '/order/fares', '/order/booking/done'])
      await page.evaluate((next) => history.pushState(null, '', next), path);
    await page.waitForFunction(() => (window as unknown as { heard?: string[] }).heard?.length === 3);
    expect(await heard(page)).to.deep.equal(['all', 'fares', 'done']);
    await page.context().close();
  });

  for (const api of ['navigation', 'history'])
    it(`runs what is for views again on each, and takes away what it has shown (${api})`, async () => {
      const perView = (code: string, placement: Placement = 'body-end') => ({
        parts: [{ ...part(placement, 0, code), per: 'view' as const }],
      });
      const snapshot = set(
        snippet('load', { parts: [part('body-end', 0, `${NOTES('load')}<b>load</b>`)] }),
        snippet('view', perView(`${NOTES('view')}<i>view</i>`)),
        snippet('head', perView(NOTES('head'), 'head-end')),
        snippet('fares', {
          ...perView(`${NOTES('fares')}<u>fares</u>`, { anchor: 'place', side: 'inside' }),
          pages: { include: ['/order/fares'], exclude: [] },
        }),
      );
      site.use({ snapshot, pages: { '/': PAGE } });
      const context = await browser.newContext();
      if (api === 'history')
        await context.addInitScript(() => Object.defineProperty(window, 'navigation', { value: undefined }));
      const page = await context.newPage();
      await page.goto(address('/'));
      const shown = (): Promise<string> =>
        page.evaluate(() => [...document.querySelectorAll('b,i,u')].map((one) => one.textContent).join());
      await settled(page, ['head', 'load', 'view']);
      expect(await shown()).to.equal('load,view');

      // The application has another element for its view a moment later.
      await page.evaluate(() => {
        history.pushState(null, '', '/order/fares');
        document.body.insertAdjacentHTML('beforeend', '<p id="place"></p>');
      });
      await settled(page, ['head', 'load', 'view', 'head', 'fares', 'view']);
      expect((await shown()).split(',').sort().join()).to.equal('fares,load,view');

      await page.evaluate(() => {
        document.getElementById('place')!.remove();
        history.back();
      });
      await settled(page, ['head', 'load', 'view', 'head', 'fares', 'view', 'head', 'view']);
      expect(await shown()).to.equal('load,view');

      // The same view with another state or place in it is no other one.
      await page.evaluate(() => {
        history.replaceState({ open: true }, '');
        location.hash = 'prices';
      });
      await page.waitForTimeout(150);
      expect(await heard(page)).to.have.length(8);
      await context.close();
    });

  it('opens by the server’s clock, whatever the visitor’s says', async () => {
    const hours = { weekly: parseWeekly('mon 09:00-17:00') };
    const snapshot = setOf({ open: { limits: { hours } }, always: {} }, { timeZone: 'Europe/Dublin' });
    const monday = Date.parse('2027-06-07T09:00:00Z');
    for (const now of [monday, monday - 90 * 60_000, monday + 7 * 60 * 60_000 - 120_000]) {
      site.use({ snapshot, pages: { '/': PAGE }, now });
      const page = await open('/');
      expect(await heard(page), new Date(now).toISOString()).to.deep.equal(
        planned(snapshot, '/', { at: now }),
      );
      await page.context().close();
    }
  });

  it('writes opening hours down as minutes between changes', () => {
    const from = Date.parse('2027-03-25T00:00:00Z');
    const week = 7 * 86_400_000;
    const text = fc.constantFrom(
      'mon 09-12',
      'sun 00:00-06:00, mon 22:00-03:00',
      'mon-sun 00:00-24:00',
      'sat 01:30-02:45',
    );
    fc.assert(
      fc.property(text, fc.integer({ min: 0, max: week - 1 }), (weekly, after) => {
        const snapshot = setOf(
          { a: { limits: { hours: { weekly: parseWeekly(weekly) } } } },
          { timeZone: 'Europe/Dublin' },
        );
        const [changes] = lineHours(compileLine(snapshot, 'live'), from, week);
        let at = 0;
        const passed = changes!.filter((minutes) => (at += minutes) * 60_000 <= from + after);
        const isOpen = passed.length % 2 === 1;
        expect(isOpen).to.equal(planned(snapshot, '/', { at: from + after }).length === 1);
      }),
      propertyRuns(300),
    );
  });
});
