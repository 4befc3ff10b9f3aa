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
      '“A” has different code.',
    ]);
  });

  it('says what goes, and that the rest comes in another order, and nothing of what is as it was', () => {
    const both = (...order: [string, number][]) =>
      planPage(
        set(...order.map(([key, rank]) => snippet(key, { parts: [part('body-end', rank)] }))),
        load('/'),
      );
    const before = both(['a', 0], ['b', 1], ['c', 2]);
    expect(planDifference(before, both(['a', 0], ['b', 1], ['c', 2]))).to.deep.equal([]);
    expect(planDifference(before, both(['a', 0], ['c', 2]))).to.deep.equal(['“B” is removed.']);
    expect(planDifference(before, both(['a', 2], ['b', 1], ['c', 0]))).to.deep.equal([
      'The rest is in a different order.',
    ]);
  });

  it('keeps of what the draft would do the reasons why it would still not run', () => {
    const draft = set(snippet('n', { limits: { devices: ['phone'] } }), snippet('m'));
    const { leftOut } = withDraft(planPage(set(), load('/')), draft);
    expect(leftOut.map(({ snippet: key, reasons }) => [key, reasons.length])).to.deep.equal([
      ['n', 2],
      ['m', 1],
    ]);
    expect(leftOut[0]).to.include({
      name: 'N',
      reason: 'not-published',
      message: 'Saved, but not published.',
    });
    const again = withDraft(planPage(set(snippet('a')), load('/')), set(snippet('a')));
    expect(again.leftOut).to.deep.equal([]);
    const [off] = withDraft(
      planPage(set(snippet('a', { state: 'off' })), load('/')),
      set(snippet('a')),
    ).leftOut;
    expect(off!.reasons.at(-1)!.message).to.include('Changed in the draft so that it would run here');
  });

  it('says when hours next change what the page load gets, whichever comes first', () => {
    const at = (text: string, change = {}) =>
      snippet(text, { limits: { hours: { weekly: parseWeekly(text) } }, ...change });
    const until = (...snippets: ReturnType<typeof snippet>[]): string | undefined => {
      const plan = planPage(set(...snippets), load('/'));
      return 'until' in plan ? new Date(plan.until!).toISOString().slice(5, 16) : undefined;
    };
    // A Monday at ten.
    expect(until(at('mon 09-12'))).to.equal('03-01T12:00');
    expect(until(at('mon 11-12'))).to.equal('03-01T11:00');
    expect(until(at('mon 09-12'), at('mon 11-13'))).to.equal('03-01T11:00');
    expect(until(snippet('always'))).to.equal(undefined);
    expect(until(at('mon 09-12', { state: 'off' }))).to.equal(undefined);
    expect(until(at('mon 09-12', { parts: [] }))).to.equal(undefined);
    expect(until(at('mon 09-12', { pages: { include: ['/x'], exclude: [] } }))).to.equal(undefined);
  });

  it('says for what a part waits in the browser', () => {
    const [plain, waiting] = planPage(
      set(snippet('a'), snippet('b', { limits: { visitor: { afterSeconds: 5 } } })),
      load('/'),
    ).parts;
    expect(plain).not.to.have.property('waits');
    expect(waiting!.waits).to.match(/5 seconds/);
    const [without] = planPage(set(snippet('a', { limits: { visitor: {} } })), load('/')).parts;
    expect(without).not.to.have.property('waits');
  });

  it('is made once for pages that are alike, and knows pages that nothing reaches', () => {
    const planner = new ReleasePlanner(
      set(
        snippet('a', { pages: { include: ['/a/*'], exclude: [] } }),
        snippet('staging', { limits: { environment: 'staging' } }),
        snippet('empty', { parts: [], limits: { hours: { weekly: parseWeekly('mon 09-12') } } }),
      ),
    );
    const page = (path: string) => planner.page(pageAddress(path));
    expect(page('/a/1')).to.equal(page('/a/2'));
    expect(page('/b')).not.to.equal(page('/a/1'));
    expect([page('/a/1').isInReach, page('/b').isInReach]).to.deep.equal([true, false]);
    expect(page('/b').outcome({}, MONDAY_TEN).tag).to.equal('');
    expect(page('/b').until(MONDAY_TEN)).to.equal(Infinity);
    const staging = new ReleasePlanner(set(snippet('s', { limits: { environment: 'staging' } })), 'staging');
    expect(staging.plan(load('/')).parts).to.have.length(1);
    expect(staging.page(pageAddress('/')).isInReach).to.equal(true);
  });

  it('asks hours again only when they change, also for a time before', () => {
    const page = new ReleasePlanner(
      set(snippet('a', { limits: { hours: { weekly: parseWeekly('mon 09-12') } } })),
    ).page(pageAddress('/'));
    const hour = 3_600_000;
    const counts = [0, 2, 1, -2, 0].map((later) => page.outcome({}, MONDAY_TEN + later * hour).parts.count);
    expect(counts).to.deep.equal([1, 0, 1, 0, 1]);
    expect(page.until(MONDAY_TEN)).to.equal(MONDAY_TEN + 2 * hour);
    expect(page.until(MONDAY_TEN - 2 * hour)).to.equal(MONDAY_TEN - hour);
  });

  it('has the same tag for the same parts in every process, and another in another release', () => {
    const tagOf = (note: string): string =>
      new ReleasePlanner(set(snippet('a', { note }), snippet('b', { limits: { consent: ['adverts'] } })))
        .page(pageAddress('/'))
        .outcome({}, MONDAY_TEN).tag;
    expect(tagOf('x'))
      .to.equal(tagOf('x'))
      .and.to.match(/^[0-9a-f]{20}$/);
    expect(tagOf('x')).not.to.equal(tagOf('y'));
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
