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
    `<script type="application/ld+json">{ "@type": "Thing", "name": "N${i}" }</script>`,
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

function time(run: () => unknown): number {
  const start = process.hrtime.bigint();
  run();
  return Number(process.hrtime.bigint() - start) / 1e6;
}

const middle = (figures: number[]): number => [...figures].sort((a, b) => a - b)[figures.length >> 1]!;

console.log(`${cpus()[0]!.model}, Node ${process.version}; median of ${ROUNDS} rounds\n`);
runChecks(exampleSet(Array.from({ length: 300 }, (_, i) => snippet(i))));
console.log('| snippets | all read anew, ms | after one edit, ms | a snippet, µs | findings |');
console.log('| ---: | ---: | ---: | ---: | ---: |');
for (const size of SIZES) {
  const set = exampleSet(Array.from({ length: size }, (_, i) => snippet(i)));
  const first: number[] = [];
  const edited: number[] = [];
  let findings = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const memory = new FactsCache();
    first.push(time(() => (findings = runChecks(set, { ...KNOWLEDGE, memory }).length)));
    const [one, ...others] = set.snippets;
    const part = { ...one!.parts[0]!, code: `<script>window.edited = ${round};</script>` };
    const next = { ...set, snippets: [{ ...one!, parts: [part] }, ...others] };
    edited.push(time(() => runChecks(next, { ...KNOWLEDGE, memory })));
  }
  console.log(
    `| ${size} | ${middle(first).toFixed(0)} | ${middle(edited).toFixed(1)} | ${((middle(first) / size) * 1000).toFixed(0)} | ${findings} |`,
  );
}
