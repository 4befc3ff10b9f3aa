import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Option, program } from 'commander';
import fc from 'fast-check';
import { insertionFault, withoutMark } from '../support/check-insertion.js';
import { hostilePage } from '../support/hostile-pages.js';
import { htmlFiles } from '../support/real-pages.js';
import { referencePlaces } from '../support/reference-places.js';
import { insert, type NamedPlacement } from '@pragmatica/core';
import { MARKED_PARTS } from '../support/check-insertion.js';
import { fuzzApi } from './api.js';
import { ReaderUnderTest, inputsFor, save, type Reader } from './readers.js';

const root = fileURLToPath(new URL('../..', import.meta.url));
const options = program
  .name('npm run fuzz --')
  .description(
    'Inputs that nobody would write: pages for the inserter, compared with a whole parser; pastes, sets and patterns for the readers, and calls for the API, each in bounded time and without a crash.',
  )
  .addOption(
    new Option('--what <reader>', 'what is tried')
      .choices(['insert', 'read', 'check', 'pattern', 'api'])
      .default('insert'),
  )
  .option('--seconds <n>', 'how long', Number, 60)
  .option('--seed <n>', 'where the pages begin', Number, Date.now() & 0xffffff)
  .option('--pages <folder...>', 'folders of real pages', [join(root, 'packages/demo/pages')])
  .parse()
  .opts<{ what: 'insert' | 'api' | Reader; seconds: number; seed: number; pages: string[] }>();

/** Where the reading of the parser that is compared with is known to be another, or things in tables change their order. */
const OWN_READING = /<\/t(body|foot|head)|plaintext|<table|<!\[CDATA/i;
const MAX_LENGTH = 30_000;

const pages = htmlFiles(options.pages).map((file) => readFileSync(file));
let random = options.seed;

/** A small generator of its own (xorshift), so that a seed gives the same pages everywhere. */
function below(limit: number): number {
  random ^= random << 13;
  random ^= random >>> 17;
  random ^= random << 5;
  return (random >>> 0) % limit;
}

function mutated(page: Buffer, pieces: readonly string[]): Buffer {
  let bytes = page.subarray(0, Math.min(page.length, MAX_LENGTH));
  const times = 1 + below(6);
  for (let i = 0; i < times; i++) {
    const at = below(bytes.length + 1);
    const length = below(3) === 0 ? below(200) : 0;
    const piece = below(4) === 0 ? '' : pieces[below(pieces.length)]!;
    bytes = Buffer.concat([bytes.subarray(0, at), Buffer.from(piece), bytes.subarray(at + length)]);
  }
  return bytes;
}

/** Whether every place that there is is found, and no other; for short pages, as every place is tried. */
function placeFault(html: string): string | undefined {
  if (OWN_READING.test(html) || /[^\0-\x7f]/.test(html)) return undefined;
  for (const outcome of insert(html, MARKED_PARTS).outcomes) {
    const places = referencePlaces(html, outcome.key as NamedPlacement);
    if (outcome.inserted ? !places.includes(outcome.offset) : places.length > 0)
      return `${outcome.key}: ${outcome.inserted ? `placed at ${outcome.offset}` : outcome.reason}, possible ${places.join()}`;
  }
  return undefined;
}

const until = Date.now() + options.seconds * 1000;
let tried = 0;
let failed = 0;
let round = 0;

/** Counts an input for readers or the API, and keeps one that failed. */
function judgeText(input: string, fault: string | undefined): void {
  tried++;
  if (fault === undefined) return;
  failed++;
  console.log(`${fault}\n  saved as ${save(options.what, options.seed, tried, input)}`);
}

if (options.what === 'api') await fuzzApi(options.seed, until, judgeText);
else if (options.what !== 'insert') {
  const reader = new ReaderUnderTest(options.what);
  while (Date.now() < until)
    for (const input of inputsFor(options.what, options.seed + round++, 50)) {
      judgeText(input, await reader.fault(input));
      if (Date.now() >= until) break;
    }
  await reader.close();
}
while (options.what === 'insert' && Date.now() < until) {
  const generated = fc.sample(hostilePage(30), { seed: options.seed + round, numRuns: 40 });
  const short = fc.sample(hostilePage(6), { seed: options.seed + round++, numRuns: 10 });
  const inputs = [
    ...generated.map((html) => Buffer.from(html)),
    ...Array.from({ length: 20 }, () => mutated(pages[below(pages.length)]!, generated)),
  ];
  for (const input of inputs)
    judge(
      input,
      insertionFault(
        withoutMark(input),
        Array.from({ length: below(20) }, () => below(300)),
      ),
    );
  for (const html of short) judge(Buffer.from(html), placeFault(html));
}
console.log(`${tried} inputs tried, ${failed} failures (seed ${options.seed})`);
process.exit(failed > 0 ? 1 : 0);

function judge(input: Buffer, fault: string | undefined): void {
  tried++;
  if (fault === undefined) return;
  failed++;
  const folder = join(root, '.cache/fuzz');
  mkdirSync(folder, { recursive: true });
  const file = join(folder, `${options.seed}-${tried}.html`);
  writeFileSync(file, input);
  console.log(`${fault}\n  saved as ${file}`);
}
