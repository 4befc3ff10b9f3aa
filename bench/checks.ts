import { cpus } from 'node:os';
import {
  EXAMPLE_NOW,
  FactsCache,
  RecipeBook,
  exampleRecipe,
  exampleSet,
  runChecks,
  type ExampleSnippet,
  type Knowledge,
  type Limits,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';

/** All checks over sets of growing size on a site of 10,000 known pages: the first time, and after one edit. */

const SIZES = [100, 300, 1_000, 3_000, 10_000];
const ROUNDS = 5;
const PAGES = 10_000;

/** A fifth each bounded by devices, hours and consent. */
const LIMITS: readonly (Limits | undefined)[] = [
  undefined,
  undefined,
  { devices: ['phone'] },
  { hours: { weekly: { mon: [{ from: '09:00', to: '17:30' }] }, closed: ['12-25'] } },
  { consent: ['adverts'] },
];

const KNOWLEDGE: Knowledge = {
  now: EXAMPLE_NOW,
  paths: Array.from({ length: PAGES }, (_, i) => `/part-${i % 300}/page-${i}`),
  book: new RecipeBook(
    Array.from({ length: 20 }, (_, i) =>
      exampleRecipe(`recipe-${i}`, `Recipe ${i}`, {
        recognise: { hosts: [`p${i}.example`], addresses: [], globals: [] },
        repeatable: true,
      }),
    ),
  ),
};

/** Snippets as sites have them: loaders with accounts, queues and their events, notices, data. */
function snippet(i: number): ExampleSnippet {
  const host = `p${i % 40}.example`;
  const codes = [
    `<script>(function(w,d,s,l,i){w[l]=w[l]||[];w[l].push({event:'start'});var f=d.getElementsByTagName(s)[0],j=d.createElement(s);j.async=true;j.src='https://${host}/c${i}.js?id='+i;f.parentNode.insertBefore(j,f);})(window,document,'script','layer${i}','CR-${i}');</script>`,
    `<script async src="https://${host}/a${i}.js?account=TM-${i}"></script>`,
    `<script>if (window.layer${i - 2}) layer${i - 2}.push({ event: 'seen-${i}' });</script>`,
    `<div id="box-${i}" class="notice">Notice ${i}</div>`,
    // Some are not as they should be.
    i % 50 === 4
      ? `<script async src="https://p${(i - 3) % 40}.example/a${i - 3}.js?account=TM-${i - 3}"></script>`
      : `<script type="application/ld+json">{ "@type": "Thing", "name": "N${i}" }</script>`,
  ];
  const placement = i % 5 === 3 ? 'body-end' : 'head-end';
  const pages = i % 3 === 0 ? { include: [`/part-${i % 200}/*`], exclude: [`/part-${i % 200}/old-*`] } : {};
  const limits = LIMITS[(i >> 1) % LIMITS.length];
  return {
    name: `S ${i}`,
    parts: [{ placement, code: codes[i % 5]! }],
    ...pages,
    ...(limits ? { limits } : {}),
  };
}

/** What people do to a set, one thing at a time; the number makes each time another of it. */
const EDITS: Readonly<Record<string, (set: Snapshot, number: number) => Snapshot>> = {
  code: (set, number) =>
    changed(set, number * 5, ({ parts: [part] }) => ({
      parts: [{ ...part!, code: `${part!.code}<script>window.edited${number} = 1;</script>` }],
    })),
  pages: (set, number) =>
    changed(set, number * 5, () => ({ pages: { include: [`/edited-${number}/*`], exclude: [] } })),
  'switched off': (set, number) => changed(set, number * 5, () => ({ state: 'off' })),
  moved: (set, number) => {
    const { length } = set.snippets;
    const order = [...set.snippets];
    order.splice((number * 7) % length, 0, ...order.splice((number * 5) % length, 1));
    return ranked({ ...set, snippets: order });
  },
  // As the product adds one: behind the others of its place.
  added: (set, number) => ({ ...set, snippets: [...set.snippets, another(set, `added-${number}`, number)] }),
  // As a new order of all would have it: every rank behind it is another.
  'added in front': (set, number) =>
    ranked({ ...set, snippets: [another(set, `in-front-${number}`, number), ...set.snippets] }),
};

function another({ snippets }: Snapshot, key: string, number: number): SnapshotSnippet {
  const like = snippets[number]!;
  const parts = like.parts.map((part) => ({ ...part, rank: snippets.length + number }));
  return { ...like, key, name: `Added ${key}`, parts };
}

function changed(
  set: Snapshot,
  number: number,
  change: (snippet: SnapshotSnippet) => Partial<SnapshotSnippet>,
): Snapshot {
  const at = number % set.snippets.length;
  return {
    ...set,
    snippets: set.snippets.map((snippet, index) =>
      index === at ? { ...snippet, ...change(snippet) } : snippet,
    ),
  };
}

/** Ranks in the order of the set. */
function ranked(set: Snapshot): Snapshot {
  const snippets = set.snippets.map((snippet, rank) => ({
    ...snippet,
    parts: snippet.parts.map((part) => ({ ...part, rank })),
  }));
  return { ...set, snippets };
}

function time(run: () => unknown): number {
  const start = process.hrtime.bigint();
  run();
  return Number(process.hrtime.bigint() - start) / 1e6;
}

const middle = (figures: number[]): number => [...figures].sort((a, b) => a - b)[figures.length >> 1]!;

const kinds = Object.keys(EDITS);
console.log(`${cpus()[0]!.model}, Node ${process.version}; medians of ${ROUNDS} rounds, in ms\n`);
runChecks(exampleSet(Array.from({ length: 300 }, (_, i) => snippet(i))));
console.log(`| snippets | all read anew | first edit | ${kinds.join(' | ')} | findings |`);
console.log(`| ---: | ---: | ---: | ${kinds.map(() => '---: | ').join('')}---: |`);
for (const size of SIZES) {
  const whole = ranked(exampleSet(Array.from({ length: size }, (_, i) => snippet(i))));
  const anew: number[] = [];
  const first: number[] = [];
  const edited = kinds.map((): number[] => []);
  let findings = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const known = { ...KNOWLEDGE, memory: new FactsCache() };
    anew.push(time(() => (findings = runChecks(whole, known).length)));
    let set = EDITS.code!(whole, round);
    first.push(time(() => runChecks(set, known)));
    for (let again = 0; again < ROUNDS; again++)
      for (const [kind, name] of kinds.entries()) {
        set = EDITS[name]!(set, again);
        edited[kind]!.push(time(() => runChecks(set, known)));
      }
  }
  const figures = [middle(anew).toFixed(0), ...[first, ...edited].map((times) => middle(times).toFixed(1))];
  console.log(`| ${size} | ${figures.join(' | ')} | ${findings} |`);
}
