import { expect } from 'chai';
import fc from 'fast-check';
import {
  DEVICES,
  DEVICE_HEADERS,
  ReleasePlanner,
  pageAddress,
  parseWeekly,
  planDifference,
  planPage,
  withDraft,
  type Limits,
  type PageRules,
} from '@pragmatica/core';
import { propertyRuns } from '../support/property-runs.js';
import { MONDAY_TEN, load, part, set, snippet } from '../support/sets.js';

describe('the page plan', () => {
  it('holds the parts in page order: placements from top to foot, ranks within', () => {
    const plan = planPage(
      set(
        snippet('a', { parts: [part('body-end', 1), part('head-start', 5)] }),
        snippet('b', { parts: [part('body-end', 0)] }),
        snippet('c', {
          parts: [
            part({ anchor: 'x', side: 'inside' }),
            part('head-start', 2),
            part('body-start'),
            part('head-end'),
          ],
        }),
      ),
      load('/'),
    );
    expect(plan.parts.map((entry) => entry.key)).to.deep.equal([
      'c/2',
      'a/2',
      'c/4',
      'c/3',
      'c/1',
      'b/1',
      'a/1',
    ]);
  });

  it('says why each other snippet is left out', () => {
    const plan = planPage(
      set(
        snippet('off', { state: 'off' }),
        snippet('archived', { state: 'archived' }),
        snippet('elsewhere', { pages: { include: ['/fares', '/news/*'], exclude: [] } }),
        snippet('excluded', { pages: { include: [], exclude: ['/booking*'] } }),
        snippet('empty', { parts: [] }),
      ),
      load('/booking'),
    );
    expect(plan.parts).to.have.length(0);
    expect(plan.leftOut.map(({ reason, message }) => [reason, message])).to.deep.equal([
      ['off', 'It is switched off.'],
      ['archived', 'It is in the archive.'],
      ['not-included', '/booking is not among its pages: it runs only on /fares and /news/*.'],
      ['excluded', 'Excluded by /booking*.'],
      ['no-code', 'It has no code yet.'],
    ]);
  });

  it('prepares for the gateway just the parts that it plans', () => {
    const snapshot = set(
      snippet('a'),
      snippet('b', { pages: { include: ['/x'], exclude: [] } }),
      snippet('c', { state: 'off' }),
    );
    const planner = new ReleasePlanner(snapshot);
    for (const path of ['/', '/x', '/x?y=1']) {
      expect(planner.prepare(load(path)).keys).to.deep.equal(
        planner.plan(load(path)).parts.map((entry) => entry.key),
      );
    }
    expect(planner.prepare(load('/y')), 'the same set is prepared once').to.equal(
      planner.prepare(load('/z')),
    );
  });
});

describe('a release made ready', () => {
  const RULES: PageRules[] = [
    { include: [], exclude: [] },
    { include: ['/a'], exclude: [] },
    { include: ['/a/*', '/x'], exclude: ['/a/b'] },
    { include: ['@group'], exclude: ['//www.mill.test/x'] },
    { include: ['/(a|b)'], exclude: [] },
  ];
  const LIMITS: (Limits | undefined)[] = [
    undefined,
    { environment: 'live' },
    { environment: 'staging' },
    { devices: ['phone'] },
    { devices: ['desktop', 'tablet'], hours: { weekly: parseWeekly('mon 09-12, tue 10-11') } },
    { hours: { weekly: parseWeekly('mon-sun 11-13') } },
    { consent: ['adverts'] },
    { consent: ['adverts', 'visits'], devices: ['phone'] },
    { visitor: { who: 'first', afterSeconds: 3 } },
  ];
  const SITE_REACH = {
    pageGroups: [{ key: 'group', name: 'Group', patterns: ['/x', '/a/*'] }],
    consent: {
      categories: [
        { key: 'adverts', name: 'Adverts' },
        { key: 'visits', name: 'Visits' },
      ],
      cookie: 'agreed',
      format: { kind: 'list' as const },
    },
  };
  const snapshots = fc
    .array(
      fc.record({
        pages: fc.constantFrom(...RULES),
        limits: fc.constantFrom(...LIMITS),
        state: fc.constantFrom('on' as const, 'on' as const, 'off' as const),
      }),
      { maxLength: 8 },
    )
    .map((list) => {
      const snippets = list.map(({ pages, limits, state }, i) =>
        snippet(`s${i}`, { pages, state, ...(limits ? { limits } : {}) }),
      );
      const made = set(...snippets);
      return { ...made, site: { ...made.site, ...SITE_REACH } };
    });
  const loads = fc
    .record({
      path: fc.constantFrom('/', '/a', '/b', '/a/b', '/a/c', '/x', '/x?q=1'),
      host: fc.constantFrom('www.mill.test', 'try.mill.test'),
      device: fc.constantFrom(...DEVICES),
      hours: fc.nat({ max: 200 }),
      consent: fc.subarray(['adverts', 'visits']),
    })
    .map(({ path, host, hours, ...rest }) =>
      load(path, { ...rest, page: pageAddress(path, host), at: MONDAY_TEN + hours * 1_200_000 }),
    );
  const agent = { phone: '?1', tablet: '?0', desktop: '?0' } as const;

  it('gives every page load what its plan says, whatever was asked before', () => {
    fc.assert(
      fc.property(snapshots, fc.array(loads, { minLength: 1, maxLength: 12 }), (snapshot, asked) => {
        for (const environment of ['live', 'staging'] as const) {
          const planner = new ReleasePlanner(snapshot, environment);
          const tags = new Map<string, string>();
          for (const one of asked) {
            const plan = planPage(snapshot, { ...one, environment });
            const keys = plan.parts.map(({ key }) => key);
            expect(planner.prepare(one).keys).to.deep.equal(keys);
            const page = planner.page(one.page);
            const visit = {
              'sec-ch-ua-mobile': agent[one.device],
              'sec-ch-ua-platform': one.device === 'tablet' ? '"Android"' : '"Linux"',
              cookie: `agreed=${one.consent.join('+')}`,
            };
            const { parts, tag } = page.outcome(visit, one.at);
            expect(parts.keys).to.deep.equal(keys);
            // Equal parts have equal tags, others have others.
            expect(tags.get(keys.join()) ?? tag).to.equal(tag);
            for (const [other, otherTag] of tags) expect(otherTag === tag).to.equal(other === keys.join());
            tags.set(keys.join(), tag);
            const until = page.until(one.at);
            if (until !== Infinity) expect(until).to.be.greaterThan(one.at);
            if (plan.until !== undefined) expect(until).to.be.at.most(plan.until);
          }
        }
      }),
      propertyRuns(200),
    );
  });

  it('names the headers that a page depends on, and only those', () => {
    const planner = new ReleasePlanner({
      ...set(
        snippet('all'),
        snippet('phones', { pages: { include: ['/a'], exclude: [] }, limits: { devices: ['phone'] } }),
        snippet('agreed', {
          pages: { include: ['/a', '/b'], exclude: [] },
          limits: { consent: ['adverts'] },
        }),
        snippet('off', { state: 'off', limits: { devices: ['phone'] } }),
      ),
    });
    const vary = (path: string) => planner.page(pageAddress(path)).vary;
    expect(vary('/')).to.deep.equal([]);
    expect(vary('/b')).to.deep.equal(['Cookie']);
    expect(vary('/a')).to.deep.equal([...DEVICE_HEADERS, 'Cookie']);
    expect(planner.page(pageAddress('/')).until(MONDAY_TEN)).to.equal(Infinity);
  });

  it('says what is saved and not published, and what the draft would change', () => {
    const live = set(snippet('a'), snippet('b', { state: 'off' }), snippet('c', { state: 'off' }));
    const draft = set(
      snippet('a', { parts: [part('body-end', 0, '<i>new</i>')] }),
      snippet('b'),
      snippet('n'),
    );
    const plan = withDraft(planPage(live, load('/')), draft);
    expect(
      plan.leftOut.map(({ snippet: key, reasons }) => [key, ...reasons.map(({ reason }) => reason)]),
    ).to.deep.equal([
      ['b', 'off', 'not-published'],
      ['c', 'off'],
      ['n', 'not-published'],
    ]);
    expect(planDifference(plan, planPage(draft, load('/')))).to.deep.equal([
      '“B” is added.',
      '“N” is added.',
      '“A” has other code.',
    ]);
  });

  it('goes on after midnight with what began before', () => {
    const planner = new ReleasePlanner(
      set(snippet('a', { limits: { hours: { weekly: parseWeekly('mon 22-02') } } })),
    );
    for (const [hoursLater, runs] of [
      [11, false],
      [12.5, true],
      [15, true],
      [16, false],
      // A Tuesday evening.
      [37, false],
    ] as const) {
      const at = MONDAY_TEN + hoursLater * 3_600_000;
      const { count } = planner.prepare(load('/', { at }));
      expect(count, `${hoursLater} hours later`).to.equal(runs ? 1 : 0);
    }
  });

  it('says since when and by whom something is off', () => {
    const off = snippet('a', { state: 'off', stateSince: { at: '2027-02-12T09:00:00Z', by: 'Ona' } });
    const [entry] = planPage(set(off), load('/')).leftOut;
    expect(entry!.message).to.equal('It is switched off since 12 February 2027, by Ona.');
  });
});
