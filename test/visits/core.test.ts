import { expect } from 'chai';
import {
  MAX_CONTROLS,
  blame,
  consentCookie,
  damageOf,
  grantedConsent,
  hasSymptom,
  neededVisits,
  newestWell,
  samplePages,
  sampledWords,
  summarizeVisits,
  toHar,
  whyFromSettings,
  withoutParts,
  asPlanned,
  orderedParts,
  parseWeekly,
  planPage,
  RUNGS,
  type ConsentRules,
  type JudgedLoad,
  type LoadEvidence,
  type SeenControl,
  type SeenElement,
  type SeenRequest,
  type VisitEvidence,
} from '@pragmatica/core';
import fc from 'fast-check';
import { QUIET } from '../support/evidence.js';
import { propertyRuns } from '../support/property-runs.js';
import { MONDAY_TEN, load, part, set, snippet } from '../support/sets.js';

const everywhere = { include: [], exclude: [] };
const consent: ConsentRules = {
  cookie: 'agreed',
  categories: [
    { key: 'visits', name: 'Visits' },
    { key: 'adverts', name: 'Adverts', value: 'ads' },
  ],
  format: { kind: 'json', path: '$.purposes' },
};

const titles = (visits: readonly { readonly title: string }[]): readonly string[] =>
  visits.map(({ title }) => title);

describe('the visits that a set needs', () => {
  it('are one for each device where nothing waits for anything', () => {
    const visits = neededVisits(set(snippet('plain')), { path: '/a', now: MONDAY_TEN });
    expect(visits.map(({ script }) => script)).to.deep.equal([
      { device: 'desktop', steps: [{ do: 'open', path: '/a' }] },
      { device: 'phone', steps: [{ do: 'open', path: '/a' }] },
    ]);
  });

  it('fulfil everything at once in one visit, and nothing in another', () => {
    const waiting = set(
      snippet('late', { limits: { visitor: { afterSeconds: 5 } } }),
      snippet('deep', { limits: { visitor: { afterScroll: 50, onLeaving: true } } }),
    );
    const [first, second, ...others] = neededVisits(waiting, {
      path: '/',
      devices: ['desktop'],
      now: MONDAY_TEN,
    });
    expect(others).to.deep.equal([]);
    expect(first!.script.steps).to.deep.equal([{ do: 'open', path: '/' }]);
    expect(second!.script.steps.slice(1)).to.deep.equal([
      { do: 'wait', seconds: 5 },
      { do: 'scroll', percent: 50 },
      { do: 'leave' },
    ]);
    expect(second!.because).to.include('“LATE”').and.include('“DEEP”');
  });

  it('accept and refuse where anything asks for consent, and come back where anything tells visits apart', () => {
    const asking = {
      ...set(
        snippet('ads', { limits: { consent: ['adverts'] } }),
        snippet('once', { limits: { visitor: { everyDays: 7 } } }),
      ),
    };
    const snapshot = { ...asking, site: { ...asking.site, consent } };
    expect(titles(neededVisits(snapshot, { path: '/', devices: ['phone'], now: MONDAY_TEN }))).to.deep.equal([
      'A new visitor who does nothing (phone)',
      'A new visitor who accepts, stays and looks around (phone)',
      'A new visitor who refuses (phone)',
      'Somebody who comes back the next day, and again 7 days after the first visit (phone)',
    ]);
  });

  it('are made at another moment, too, where opening hours are otherwise then, as few as it takes', () => {
    const hours = (text: string) => ({ limits: { hours: { weekly: parseWeekly(text) } } });
    const snapshot = set(
      snippet('open', hours('Mon 09:00-12:00')),
      snippet('alike', hours('Mon 08:00-12:00')),
      snippet('closed', hours('Tue 09:00-12:00')),
      snippet('always'),
    );
    const visits = neededVisits(snapshot, { path: '/', devices: ['desktop'], now: MONDAY_TEN }).slice(1);
    expect(visits.map(({ script }) => new Date(script.clock!).toISOString())).to.deep.equal([
      '2027-03-01T12:01:00.000Z',
      '2027-03-02T09:01:00.000Z',
    ]);
    expect(visits[0]!.because).to.include('“OPEN” and “ALIKE”');
  });

  it('show what something waits for both ways on one page, and on others only that it comes', () => {
    const asking = set(
      snippet('ads', { limits: { consent: ['adverts'] } }),
      snippet('late', { limits: { visitor: { afterSeconds: 5 } } }),
      snippet('plain'),
    );
    const snapshot = { ...asking, site: { ...asking.site, consent } };
    const choice = { path: '/b', devices: ['phone'], now: MONDAY_TEN } as const;
    const on = (snippets: readonly string[], elsewhere: readonly string[]) =>
      titles(neededVisits(snapshot, { ...choice, snippets, shownElsewhere: new Set(elsewhere) }));
    expect(on(['ads', 'plain'], ['ads', 'plain'])).to.deep.equal([
      'A new visitor who accepts, stays and looks around (phone)',
    ]);
    expect(on(['plain'], ['plain'])).to.deep.equal(['A new visitor who does nothing (phone)']);
    expect(on(['ads', 'late'], ['ads'])).to.deep.equal([
      'A new visitor who does nothing (phone)',
      'A new visitor who accepts, stays and looks around (phone)',
    ]);
    expect(on(['ads', 'late'], ['late'])).to.include('A new visitor who refuses (phone)');
  });

  it('ask nothing for what is off, and use a tablet only where a reach names it', () => {
    const snapshot = set(
      snippet('off', { state: 'off', limits: { visitor: { afterSeconds: 9 } } }),
      snippet('pad', { limits: { devices: ['tablet'] } }),
    );
    expect(
      neededVisits(snapshot, { path: '/', now: MONDAY_TEN }).map(({ script }) => script.device),
    ).to.deep.equal(['desktop', 'tablet', 'phone']);
  });
});

describe('a sample of pages', () => {
  it('covers every snippet on every kind of page', () => {
    const paths = fc.array(fc.constantFrom('/', '/a', '/a/b', '/c', '/d/e', '/d/f'), {
      minLength: 1,
      maxLength: 20,
    });
    const rules = fc.array(fc.constantFrom('/a*', '/', '/d/*', '/c', '/*'), { minLength: 0, maxLength: 2 });
    fc.assert(
      fc.property(paths, fc.array(rules, { minLength: 1, maxLength: 5 }), (known, includes) => {
        const snapshot = set(
          ...includes.map((include, index) =>
            snippet(`s${index}`, { pages: { include, exclude: [] }, parts: [part('body-end', index)] }),
          ),
        );
        const pages = known.map((path) => ({ path, skeleton: String(path.length % 2) }));
        const sample = samplePages(snapshot, 'live', 'x.example', pages, 0);
        const pairsOf = (all: readonly { path: string }[]): Set<string> =>
          new Set(
            all.flatMap(({ path }) =>
              planPage(snapshot, load(path)).parts.map((one) => `${one.snippet} ${path.length % 2}`),
            ),
          );
        expect(pairsOf(sample)).to.deep.equal(pairsOf(pages));
        expect(sample.length).to.be.at.most(Math.max(1, pairsOf(pages).size));
      }),
    );
  });

  it('has the pages of what is closed now, which is visited when it is open', () => {
    const hours = { hours: { weekly: parseWeekly('Tue 09:00-12:00') } };
    const snapshot = set(snippet('chat', { limits: hours, pages: { include: ['/contact'], exclude: [] } }));
    const pages = [{ path: '/' }, { path: '/contact' }];
    const [page, ...others] = samplePages(snapshot, 'live', 'x.example', pages, MONDAY_TEN);
    expect(others).to.deep.equal([]);
    expect(page).to.deep.include({ path: '/contact', covers: ['chat'] });
    const visits = neededVisits(snapshot, { path: '/contact', snippets: ['chat'], now: MONDAY_TEN });
    expect(visits.some(({ script }) => script.clock !== undefined)).to.equal(true);
  });
});

describe('why a page is in a sample', () => {
  it('is said in words', () => {
    const words = sampledWords({ path: '/', standsFor: 3, covers: ['a'] }, set(snippet('a')));
    expect(words).to.equal(
      'The page represents 3 with the same snippets and the same structure. It is there for “A”.',
    );
    expect(sampledWords({ path: '/', standsFor: 1, covers: [] }, set())).to.equal('');
  });
});

describe('the cookie of a consent banner', () => {
  it('reads back as what was agreed to, in whatever form', () => {
    for (const format of [
      consent.format,
      { kind: 'list' } as const,
      { kind: 'json', path: "$['a']['b']" } as const,
    ])
      for (const keys of [[], ['adverts'], ['visits', 'adverts']]) {
        const rules = { ...consent, format };
        const cookie = consentCookie(rules, keys)!;
        expect(grantedConsent(rules, `${cookie.name}=${cookie.value}`)).to.deep.equal(keys);
      }
    expect(
      consentCookie({ ...consent, format: { kind: 'json', path: '$.x[?@.y == 1]' } }, ['visits']),
    ).to.equal(undefined);
  });
});

describe('the newest version that is well', () => {
  const tried: number[] = [];
  /** @param broken - the first version that is not well any more */
  const search = (count: number, broken: number, unknown?: number) => {
    tried.length = 0;
    return newestWell(count, (version) => {
      tried.push(version);
      return Promise.resolve(version === unknown ? undefined : version < broken);
    });
  };

  it('is the one before the first that is not, in few visits', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 400 }), fc.nat(400), async (count, at) => {
        const broken = at % (count + 1);
        expect(await search(count, broken)).to.equal(broken === 0 ? null : broken - 1);
        expect(tried.length).to.be.at.most(2 + Math.ceil(Math.log2(count)));
        expect(new Set(tried).size).to.equal(tried.length);
      }),
      propertyRuns(200),
    );
  });

  it('is tried first where it mostly is, and nobody claims what could not be seen', async () => {
    expect(await search(9, 9)).to.equal(8);
    expect(tried).to.deep.equal([8]);
    expect(await search(9, 4, 8)).to.equal(undefined);
    expect(await search(9, 4, 0)).to.equal(undefined);
    expect(await search(9, 4, 4)).to.equal(undefined);
  });
});

describe('who is to blame', () => {
  it('is the smallest set without which it goes away, whatever it is', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.string({ minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 12 }),
        fc.array(fc.nat(), { minLength: 1, maxLength: 2 }),
        async (keys, picks) => {
          const culprits = new Set(picks.map((pick) => keys[pick % keys.length]!));
          // Each of them is enough to break the page.
          const found = await blame(
            keys,
            [],
            (without) => Promise.resolve([...culprits].some((one) => !without.includes(one))),
            500,
          );
          expect([...found].sort()).to.deep.equal([...culprits].sort());
        },
      ),
    );
  });

  it('is asked of the suspects first, and of nobody for longer than it may', async () => {
    const asked: string[][] = [];
    const keys = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'];
    const test = (culprit: string) => (without: readonly string[]) => {
      asked.push([...without]);
      return Promise.resolve(!without.includes(culprit));
    };
    expect(await blame(keys, ['g'], test('g'))).to.deep.equal(['g']);
    expect(asked).to.deep.equal([['g']]);
    expect(await blame(keys, [], test('g'), 1)).to.deep.equal([]);
  });
});

describe('a page with other parts', () => {
  const snapshot = set(
    snippet('a', { parts: [part('head-end', 0, '<script>a()</script>')] }),
    snippet('b', { parts: [part('body-end', 0, '<script>b()</script>')] }),
  );
  const page = '<!doctype html><html><head><title>x</title></head><body><p>hi</p></body></html>';

  it('is the page itself once everything is taken out', () => {
    const placed = orderedParts(snapshot);
    const full = asPlanned(page, 'skerrywick', placed, planPage(snapshot, load('/')), {});
    expect(full).to.include('<script>a()</script></head>').and.include('<script>b()</script></body>');
    expect(withoutParts(full, placed, {})).to.equal(page);
    expect(asPlanned(full, 'skerrywick', placed, planPage(set(), load('/')), {})).to.equal(page);
  });

  it('carries the nonce that the page wants', () => {
    const headers = { 'content-security-policy': "script-src 'nonce-abc123'" };
    const placed = orderedParts(snapshot);
    const full = asPlanned(page, 'skerrywick', placed, planPage(snapshot, load('/')), headers);
    expect(full).to.include('<script nonce="abc123">a()</script>');
    expect(withoutParts(full, placed, headers)).to.equal(page);
  });
});

describe('why, from settings alone', () => {
  const ask = (draft = set(snippet('a')), served = draft, at = load('/')) =>
    whyFromSettings({ snippet: 'a', draft, served: { release: 3, snapshot: served }, load: at })!;

  it('stops at the first step that fails, and says what to do', () => {
    const off = set(snippet('a', { state: 'off' }));
    expect(ask(set(snippet('a', { parts: [] }))).stopsAt).to.equal('saved');
    expect(ask(off).stopsAt).to.equal('on');
    expect(
      whyFromSettings({ snippet: 'a', draft: set(snippet('a')), served: undefined, load: load('/') })!,
    ).to.include({
      stopsAt: 'published',
      isWell: false,
    });
    expect(ask(set(snippet('a')), set(snippet('b'))).cause!.id).to.equal('not-in-release');
    expect(ask(set(snippet('a')), off).cause!.id).to.equal('off-in-release');
    const elsewhere = set(snippet('a', { pages: { include: ['/x'], exclude: [] } }));
    expect(ask(elsewhere).cause).to.include({ id: 'not-included', who: 'you' });
  });

  it('leaves the rest to a visit where settings say that it should show', () => {
    const answer = ask();
    expect(answer.isWell).to.equal(null);
    expect(answer.steps.filter(({ state }) => state === 'open').map(({ step }) => step)).to.deep.equal([
      ...RUNGS,
    ]);
  });

  it('says when the answer changes by itself', () => {
    const hours = { weekly: parseWeekly('Mon 12:00-18:00') };
    const open = set(snippet('a', { limits: { hours } }));
    const answer = ask(open, open);
    expect(answer.cause!.id).to.equal('hours');
    expect(new Date(answer.until!).toISOString()).to.equal('2027-03-01T12:00:00.000Z');
  });

  it('knows nothing of a snippet that there is not', () => {
    expect(whyFromSettings({ snippet: 'zz', draft: set(), served: undefined, load: load('/') })).to.equal(
      undefined,
    );
  });

  it('is not confused by what waits for nothing', () => {
    expect(ask(set(snippet('a', { pages: everywhere }))).hints).to.deep.equal([]);
  });
});

const LOOKED: SeenElement = {
  ...{ tag: '<iframe>', selector: 'iframe', text: '', position: 'static', isVisible: true, probes: [] },
  box: { x: 0, y: 0, width: 1, height: 1 },
  stack: [{ script: '1', url: 'http://formhatch.example/f.js', line: 0, column: 0 }],
};

describe('what is wrong with a page', () => {
  it('is what the page without the snippets does not have', () => {
    expect(damageOf(QUIET, QUIET)).to.deep.equal([]);
    const ids = (change: Partial<LoadEvidence>): readonly string[] =>
      damageOf({ ...QUIET, ...change }, QUIET).map(({ id }) => id);
    expect(ids({ readable: 100 })).to.deep.equal(['text-gone']);
    expect(ids({ readable: 400 })).to.deep.equal([]);
    expect(ids({ isHung: true })).to.deep.equal(['hung']);
    expect(ids({ finalUrl: 'http://x.example/b' })).to.deep.equal(['elsewhere']);
    expect(ids({ longTasks: [{ atMs: 1, durationMs: 2_000, scripts: [] }] })).to.deep.equal(['blocked']);
    expect(ids({ shifts: [{ atMs: 1, score: 0.4, moved: [] }] })).to.deep.equal(['shifts']);
    expect(ids({ readyMs: 5_000 })).to.deep.equal(['slow']);
    const control = {
      tag: '<a>',
      selector: 'a',
      text: 'Book',
      box: { x: 0, y: 0, width: 9, height: 9 },
      coveredBy: 'div',
      covered: 81,
    };
    expect(ids({ covered: [{ ...control, canBeClosed: false }] })).to.deep.equal(['covered']);
    expect(ids({ covered: [{ ...control, canBeClosed: true }] })).to.deep.equal([]);
  });

  it('is also what a policy keeps out, and nothing that fails by chance', () => {
    const image = (failure?: SeenRequest['failure']): SeenRequest => ({
      ...{ id: '1', url: 'http://x.example/boat.svg', method: 'GET', kind: 'image', startMs: 1, bytes: 1 },
      initiator: { by: 'parser', stack: [] },
      ...(failure === undefined ? { status: 200 } : { failure }),
    });
    const found = (now: SeenRequest, before: readonly SeenRequest[] = [image()]): readonly string[] =>
      damageOf({ ...QUIET, requests: [now] }, { ...QUIET, requests: before }).map(({ id }) => id);
    expect(found(image('policy'))).to.deep.equal(['kept-out']);
    expect(found(image('no-answer'))).to.deep.equal([]);
    expect(found(image('policy'), [])).to.deep.equal([]);
    expect(found(image('policy'), [image('policy')])).to.deep.equal([]);
  });

  it('is also what visitors could use and cannot any more', () => {
    const at = (y: number, kind: SeenControl['kind'], name: string): SeenControl => ({
      ...{ kind, name },
      box: { x: 10, y, width: 80, height: 20 },
    });
    const menu = ['Boats', 'Fares', 'Islands', 'News'].map((name, index) => at(index * 400, 'link', name));
    const all = [
      ...menu,
      at(2_000, 'field', 'Day'),
      at(2_040, 'button', 'Book'),
      at(2_400, 'button', 'Book'),
    ];
    const gone = (controls: readonly SeenControl[], change: Partial<LoadEvidence> = {}): readonly string[] =>
      damageOf({ ...QUIET, ...change, controls }, { ...QUIET, controls: all }).map(({ message }) => message);
    expect(gone(all)).to.deep.equal([]);
    expect(gone([...all].reverse())).to.deep.equal([]);
    expect(gone(all.slice(0, -1))).to.deep.equal(['“Book” is gone from the page.']);
    expect(gone(menu)).to.deep.equal(['“Day” and 2 other controls are gone from the page.']);
    // A menu changes; most of it does not go.
    expect(gone(all.slice(2))).to.deep.equal([]);
    expect(gone(all.slice(3))).to.deep.equal(['“Boats” and 2 other controls are gone from the page.']);
    // What stands in its place was put there instead, also a little below.
    expect(
      gone([...menu, at(2_000, 'field', 'Day'), at(2_100, 'button', 'Book now'), all[6]!]),
    ).to.deep.equal([]);
    // One button replaces one control, and no form.
    expect(gone([...menu, at(2_010, 'button', 'See free places')])).to.deep.equal([
      '“Book” and another control are gone from the page.',
    ]);
    const frame = { ...LOOKED, box: { x: 0, y: 1_990, width: 200, height: 500 } };
    expect(gone(menu, { elements: [frame] })).to.deep.equal([]);
    expect(gone(menu, { elements: [{ ...frame, position: 'fixed' }] })).to.have.length(1);
    expect(gone(menu, { elements: [{ ...frame, isVisible: false }] })).to.have.length(1);
    // Whose doing it was is asked of the control itself, whatever stands there without somebody.
    const [symptom] = damageOf({ ...QUIET, controls: menu }, { ...QUIET, controls: all });
    const still = (controls: readonly SeenControl[], elements: readonly SeenElement[] = []): boolean =>
      hasSymptom(symptom!, { ...QUIET, controls, elements }, { ...QUIET, controls: all });
    expect(still(menu, [frame])).to.equal(true);
    expect(still([...menu, at(2_000, 'field', 'Day')])).to.equal(false);
    // Of very many only the first are known.
    const many = Array.from({ length: MAX_CONTROLS }, (_, index) => at(index * 30, 'button', `B ${index}`));
    expect(gone(many)).to.deep.equal([]);
  });
});

describe('a round of visits, summed up', () => {
  const judged = (state: 'reached' | 'failed', expected: 'runs' | 'waits' = 'runs'): JudgedLoad => ({
    url: 'http://x.example/',
    status: 200,
    snippets: [
      {
        snippet: 'a',
        name: 'A',
        expected,
        isIntruder: false,
        rungs: RUNGS.map((rung) => ({
          rung,
          state:
            expected === 'waits' && rung !== 'delivered' ? 'waiting' : rung === 'shown' ? state : 'reached',
          message: '',
          ...(rung === 'shown' && state === 'failed'
            ? { cause: { id: 'hidden', message: 'm', advice: '', who: 'site', evidence: [] } as const }
            : {}),
        })),
      },
    ],
    banners: [],
    overlaps: [],
    covered: [],
    doubled: [],
    stages: [],
    weights: [],
    owners: { requests: [], exceptions: [], elements: [], writes: [] },
  });
  const visit = (number: number, load_: JudgedLoad, device: 'desktop' | 'phone' = 'desktop') => ({
    number,
    path: '/',
    script: { device, steps: [] },
    failure: null,
    judged: [load_],
  });

  it('counts the worst page load of each device, and what waited once and ran once as run', () => {
    const summary = summarizeVisits([
      visit(1, judged('reached', 'waits')),
      visit(2, judged('reached')),
      visit(3, judged('failed'), 'phone'),
    ]);
    expect(summary.isWell).to.equal(false);
    const [found] = summary.snippets;
    expect(found!.devices.map(({ device, rungs }) => [device, rungs.shown])).to.deep.equal([
      ['desktop', 'reached'],
      ['phone', 'failed'],
    ]);
    expect(found!.problems.map(({ cause, at }) => [cause.id, at.map((one) => one.visit)])).to.deep.equal([
      ['hidden', [3]],
    ]);
  });

  it('is well where everything is', () => {
    expect(summarizeVisits([visit(1, judged('reached'))]).isWell).to.equal(true);
    expect(summarizeVisits([{ ...visit(1, judged('reached')), failure: 'crashed' }]).isWell).to.equal(false);
  });
});

describe('an HTTP Archive', () => {
  it('holds what was asked for, with its times', () => {
    const evidence: VisitEvidence = {
      format: 'pragmatica-visit/1',
      script: { device: 'desktop', steps: [] },
      browser: 'Chromium 1.2.3',
      startedAt: 0,
      durationMs: 1,
      failure: null,
      steps: [],
      loads: [
        {
          ...QUIET,
          requests: [
            {
              id: '1',
              url: 'http://x.example/a?b=c',
              method: 'GET',
              kind: 'document',
              startMs: 5,
              answeredMs: 20,
              endMs: 30,
              status: 200,
              type: 'text/html',
              bytes: 12,
              initiator: { by: 'other', stack: [] },
              requestHeaders: { accept: '*/*' },
            },
          ],
        },
      ],
    };
    const { log } = toHar(evidence, '9.9');
    expect(log.version).to.equal('1.2');
    expect(log.creator).to.deep.equal({ name: 'Pragmatica', version: '9.9' });
    const [entry] = log.entries as {
      time: number;
      timings: object;
      request: { queryString: object[]; headers: object[] };
    }[];
    expect(entry!.time).to.equal(25);
    expect(entry!.timings).to.deep.equal({ send: 0, wait: 15, receive: 10 });
    expect(entry!.request.queryString).to.deep.equal([{ name: 'b', value: 'c' }]);
    expect(entry!.request.headers).to.deep.equal([{ name: 'accept', value: '*/*' }]);
  });
});
