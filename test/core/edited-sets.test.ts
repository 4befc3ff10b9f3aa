import { expect } from 'chai';
import fc from 'fast-check';
import {
  CHECKS,
  EXAMPLE_NOW,
  exampleKnowledge,
  exampleRecipe,
  exampleSet,
  placementKey,
  runChecks,
  type DeliveryKey,
  type ExampleSnippet,
  type Finding,
  type Knowledge,
  type Placement,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { longestRising } from '../../packages/core/dist/checks/longest-rising.js';
import { lookAgain, lookAtAll } from '../../packages/core/dist/checks/run-checks.js';
import { CAUSE_KINDS, siteOf } from '../corpus/causes/index.js';
import { GOOD, GOOD_SETS, MUTATIONS, SITE } from '../corpus/sets.js';
import { propertyRuns } from '../support/property-runs.js';

const words = ({ check, title, subjects }: Finding): string =>
  `${check}: ${title} (${subjects.map(({ part, snippet }) => part ?? snippet).join(', ')})`;

/** Looks at the first set, then only at what differs from one to the next, and holds that against looking at all. */
function follow(sets: readonly Snapshot[], knowledge: Knowledge): void {
  const [first, ...edited] = sets;
  const soFar = lookAtAll(first!, knowledge).soFar!();
  for (const [at, set] of edited.entries()) {
    const again = lookAgain(soFar, set, knowledge);
    const all = lookAtAll(set, knowledge).findings;
    expect(again?.map(words), `edit ${at + 1}`).to.deep.equal(all.map(words));
    expect(again).to.deep.equal(all);
  }
}

/** Keeps the snippets of a larger set as they stand in it: the ranks of those that are left have gaps. */
function without(set: Snapshot, key: string): Snapshot {
  return { ...set, snippets: set.snippets.filter((snippet) => snippet.key !== key) };
}

describe('checks after an edit', () => {
  const good = exampleSet(GOOD);

  for (const [id, { make, known = {}, consent }] of Object.entries(MUTATIONS)) {
    if (consent) continue;
    it(`find what they find in the whole set: the mistake of ${id}, made and undone`, () => {
      follow([good, exampleSet(make(GOOD)), good], { ...SITE, ...known });
    });
  }

  for (const { kind, wrong, clean } of CAUSE_KINDS)
    it(`find what they find in the whole set, snippet by snippet: ${kind}`, () => {
      for (const site of [...wrong, ...clean]) {
        const { set, knowledge } = siteOf(site);
        const fewer = set.snippets.map(({ key }) => without(set, key));
        follow([set, ...fewer.flatMap((one) => [one, set])], knowledge);
      }
    });

  it('find what they find in the whole set, snippet by snippet: the examples of the checks', () => {
    for (const check of CHECKS) {
      const [wrong, right] = [check.wrong, check.right].map((snippets) =>
        exampleSet(snippets, check.consent),
      );
      const knowledge = exampleKnowledge(check, wrong);
      const fewer = wrong!.snippets.flatMap(({ key }) => [without(wrong!, key), wrong!]);
      follow([wrong!, ...fewer, right!, wrong!], knowledge);
    }
  });

  const CALENDAR = "<script>Tidebook.open('#calendar');</script>";
  const pages = {
    '/fares':
      '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p><script>var Tidebook = {};</script></body></html>',
    '/tides': '<!DOCTYPE html><html><head><title>Tides</title></head><body><p>Tides</p></body></html>',
  };
  const LOADER = '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>';
  const FRAME =
    '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3"></iframe></noscript>';
  const crate = exampleRecipe('crate', 'Crateline container', {
    recognise: { hosts: ['crateline.example'], addresses: [], globals: [] },
    parts: [
      { key: 'loader', placement: 'head-start', required: true, code: LOADER },
      { key: 'frame', placement: 'body-start', required: true, code: FRAME },
    ],
  });
  const one = (name: string, code: string, placement: Placement = 'head-end'): ExampleSnippet => ({
    name,
    parts: [{ placement, code }],
  });

  /** Snippets of which the last makes a difference to what is found about the first. */
  const MATTERS: Readonly<Record<string, readonly [check: string, ...snippets: ExampleSnippet[]]>> = {
    'a name that the page has only further down': [
      'page-brings-later',
      one('Calendar', CALENDAR),
      one('Library', '<script>var Tidebook = { open: function () {} };</script>', 'head-start'),
    ],
    'a name that some of the pages have': [
      'nothing-brings',
      one('Calendar', CALENDAR, 'body-end'),
      one('Library', '<script src="https://unread.example/all.js"></script>'),
    ],
    'an element that no page has': [
      'element-not-there',
      one('Letter', "<script>document.getElementById('letter').className = 'wide';</script>", 'body-end'),
      one('Forms', '<script src="https://unread.example/forms.js"></script>'),
    ],
    'a piece of an install': [
      'missing-piece',
      one('Container', LOADER, 'head-start'),
      one('Container, too', FRAME, 'body-start'),
    ],
  };

  for (const [name, [check, ...snippets]] of Object.entries(MATTERS))
    it(`find what they find in the whole set, where it matters what another snippet is to ${name}`, () => {
      const notes = [1, 2, 3, 4].map((number) => one(`Note ${number}`, `<p>${number}</p>`, 'body-end'));
      const both = exampleSet([...notes, ...snippets]);
      const first = without(both, both.snippets.at(-1)!.key);
      const knowledge = exampleKnowledge({ pages, recipes: [crate] }, exampleSet([]));
      const finds = (set: Snapshot): boolean =>
        runChecks(set, knowledge).some((finding) => finding.check === check);
      expect([finds(first), finds(both)]).to.deep.equal([true, false]);
      follow([first, both, first], knowledge);
    });

  it('find what they find in the whole set, whatever is edited', () => {
    fc.assert(
      fc.property(editedSets, ({ sets, knowledge }) => follow(sets, knowledge)),
      { ...propertyRuns(60), endOnFailure: true },
    );
  });

  it('tell of a later minute what was true of the one before, and look again when hours begin', () => {
    const limits = { hours: { weekly: { thu: [{ from: '09:00', to: '17:00' }] } } };
    const set = exampleSet([{ ...GOOD[0]!, limits }]);
    const soFar = lookAtAll(set, { ...SITE, now: EXAMPLE_NOW }).soFar!();
    const at = (minutes: number): Finding[] | undefined =>
      lookAgain(soFar, set, { ...SITE, now: EXAMPLE_NOW + minutes * 60_000 });
    expect(at(1)).to.deep.equal(lookAtAll(set, { ...SITE, now: EXAMPLE_NOW }).findings);
    expect(at(7 * 24 * 60)).to.equal(undefined);
    expect(at(-1)).to.equal(undefined);
  });

  it('look at all where other things are known of the site', () => {
    const soFar = (): Parameters<typeof lookAgain>[0] => lookAtAll(good, SITE).soFar!();
    expect(lookAgain(soFar(), good, SITE)).not.to.equal(undefined);
    const paths = [...SITE.paths!, '/new'];
    expect(lookAgain(soFar(), good, { ...SITE, paths })).to.equal(undefined);
    const renamed = { ...good, site: { ...good.site, timeZone: 'Pacific/Auckland' } };
    expect(lookAgain(soFar(), renamed, SITE)).to.equal(undefined);
    expect(lookAgain(soFar(), exampleSet(GOOD.slice(0, 2)), SITE)).to.equal(undefined);
  });

  it('have what hangs together where one finding is about several snippets', () => {
    const alone = CHECKS.filter((check) => 'run' in check && !check.ties).map(({ id }) => id);
    const several = new Set<string>();
    for (const { make, known = {}, consent } of Object.values(MUTATIONS))
      for (const { check, subjects } of runChecks(exampleSet(make(GOOD), consent), { ...SITE, ...known }))
        if (new Set(subjects.map(({ snippet }) => snippet)).size > 1) several.add(check);
    expect(alone.filter((id) => several.has(id) && !ON_WHOLE.has(id))).to.deep.equal([]);
  });
});

/** Of these the findings about several come from looking at the whole set. */
const ON_WHOLE = new Set(CHECKS.filter((check) => 'runOnWhole' in check).map(({ id }) => id));

describe('the longest rising run', () => {
  it('is as long as any, and in order', () => {
    const longest = (numbers: readonly number[]): number =>
      numbers
        .reduce<number[]>((best, number, at) => {
          const before = best.filter((_, other) => numbers[other]! < number);
          return [...best.slice(0, at), 1 + Math.max(0, ...before)];
        }, [])
        .reduce((a, b) => Math.max(a, b), 0);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { maxLength: 40 }), (numbers) => {
        const run = longestRising(numbers);
        expect(run.length).to.equal(longest(numbers));
        for (const [at, index] of run.entries())
          if (at > 0) expect(index > run[at - 1]! && numbers[index]! > numbers[run[at - 1]!]!).to.equal(true);
      }),
      propertyRuns(300),
    );
  });
});

/** Everything that some set holds: right and wrong, so that much goes wrong together. */
const POOL: readonly ExampleSnippet[] = [
  ...CHECKS.flatMap(({ wrong, right }) => [...wrong, ...right]),
  ...Object.values(GOOD_SETS).flat(),
  ...CAUSE_KINDS.flatMap(({ wrong, clean }) => [...wrong, ...clean].flatMap(({ snippets }) => snippets)),
];

const PLACEMENTS: readonly Placement[] = ['head-start', 'head-end', 'body-start', 'body-end'];

type Edit = (snippets: readonly SnapshotSnippet[], number: number) => readonly SnapshotSnippet[];

const picked = fc.nat().map((number) => POOL[number % POOL.length]!);
const at = fc.nat();
const changed =
  (which: number, change: (snippet: SnapshotSnippet) => Partial<SnapshotSnippet>): Edit =>
  (snippets) =>
    snippets.map((snippet, index) =>
      index === which % snippets.length ? { ...snippet, ...change(snippet) } : snippet,
    );
const withPart = ({ parts }: SnapshotSnippet, change: Partial<SnapshotPart>): Partial<SnapshotSnippet> => ({
  parts: parts.map((part, index) => (index === 0 ? { ...part, ...change } : part)),
});

/** What people do to a set, one thing at a time. */
const edit: fc.Arbitrary<Edit> = fc.oneof(
  fc
    .tuple(at, picked)
    .map(([which, { parts }]) => changed(which, (one) => withPart(one, { code: parts[0]!.code }))),
  fc.tuple(at, picked).map(([which, other]): Edit => (snippets, number) => {
    const [made] = exampleSet([other]).snippets;
    const place = which % (snippets.length + 1);
    return [...snippets.slice(0, place), { ...made!, key: `added-${number}` }, ...snippets.slice(place)];
  }),
  at.map(
    (which): Edit =>
      (snippets) =>
        snippets.filter((_, index) => index !== which % snippets.length),
  ),
  fc
    .tuple(at, fc.constantFrom('on', 'off', 'archived'))
    .map(([which, state]) => changed(which, () => ({ state }))),
  at.map((which) => changed(which, ({ name }) => ({ name: `${name}, new` }))),
  fc
    .tuple(at, fc.constantFrom(...PLACEMENTS), fc.nat({ max: 12 }))
    .map(([which, placement, rank]) =>
      changed(which, (one) => withPart(one, { placement, rank: rank - 0.5 })),
    ),
  fc
    .tuple(at, fc.constantFrom('/fares', '/booking', '/*', '/f*s'))
    .map(([which, page]) => changed(which, () => ({ pages: { include: [page], exclude: [] } }))),
  fc.tuple(at, at).map(
    ([which, other]): Edit =>
      (snippets, number) =>
        changed(which, () => ({ needs: [snippets[other % snippets.length]!.key] }))(snippets, number),
  ),
);

/** Ranks from 0 in each placement, as an editor leaves them: one that comes in pushes the others on. */
function ranked(snippets: readonly SnapshotSnippet[]): readonly SnapshotSnippet[] {
  const all = snippets
    .flatMap(({ key, parts }) => parts.map((part, index) => ({ id: `${key} ${index}`, part })))
    .sort((a, b) => a.part.rank - b.part.rank);
  const next = new Map<string, number>();
  const ranks = new Map(
    all.map(({ id, part: { placement } }) => {
      const rank = next.get(placementKey(placement)) ?? 0;
      next.set(placementKey(placement), rank + 1);
      return [id, rank];
    }),
  );
  return snippets.map((snippet) => ({
    ...snippet,
    parts: snippet.parts.map((part, index) => ({ ...part, rank: ranks.get(`${snippet.key} ${index}`)! })),
  }));
}

const WAYS: readonly DeliveryKey[] = ['gateway', 'line', 'async-line', 'paste'];

const editedSets = fc
  .record({
    first: fc.array(picked, { minLength: 12, maxLength: 24 }),
    edits: fc.array(edit, { minLength: 3, maxLength: 8 }),
    isSurveyed: fc.boolean(),
    way: fc.constantFrom(...WAYS),
  })
  .map(({ first, edits, isSurveyed, way }) => {
    const begin = exampleSet(
      first.map((snippet, number) => ({ ...snippet, name: `${snippet.name} ${number}` })),
    );
    const sets = [begin];
    for (const [number, make] of edits.entries())
      sets.push({ ...begin, snippets: ranked(make(sets.at(-1)!.snippets, number)) });
    const hosts = [{ host: 'www.site.example', environment: 'live', delivery: way }] as const;
    const known: Knowledge = isSurveyed ? SITE : { now: EXAMPLE_NOW, book: SITE.book! };
    return { sets, knowledge: { ...known, hosts } };
  });
