import { readFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { Parser } from 'htmlparser2';
import { RewritingStream } from 'parse5-html-rewriting-stream';
import { PageInserter, insert, prepareParts, type InsertPart } from '@pragmatica/core';
import { htmlFiles } from '../test/support/real-pages.js';
import { insertionFault, withoutMark } from '../test/support/check-insertion.js';

/** Insertion beside other ways to read the same pages, in one run. Folders of pages may be given as arguments. */

const ROUNDS = 7;
const demo = join(fileURLToPath(new URL('..', import.meta.url)), 'packages/demo/pages');
const folders = process.argv.slice(2);
const files = htmlFiles(folders.length > 0 ? folders : [demo]);
const pages = files.map((file) => readFileSync(file));
const total = pages.reduce((sum, page) => sum + page.length, 0);
/** Enough work for a figure, also with few pages. */
const repeats = Math.max(1, Math.round(30e6 / total));

const script = '<script src="https://tallymast.example/count.js" async></script>';
const parts: InsertPart[] = (['head-start', 'head-end', 'body-start', 'body-end'] as const).map(
  (placement) => ({
    key: placement,
    placement,
    code: script,
  }),
);
const prepared = prepareParts(parts);

interface Way {
  readonly name: string;
  readonly run: (page: Buffer) => void;
  /** Slow ways see only some of the pages. */
  readonly share?: number;
}

const ways: readonly Way[] = [
  { name: 'one pass for a byte that does not occur', run: (page) => void page.indexOf(0x01) },
  {
    name: 'every < by indexOf',
    run: (page) => {
      let at = page.indexOf(0x3c);
      while (at >= 0) at = page.indexOf(0x3c, at + 1);
    },
  },
  {
    name: 'insertion, four parts',
    run: (page) => {
      const inserter = new PageInserter(prepared, { encoding: 'utf-8' });
      inserter.write(page);
      inserter.end();
    },
  },
  {
    name: 'insertion, four parts, without WebAssembly',
    run: (page) => {
      const inserter = new PageInserter(prepared, { encoding: 'utf-8', plain: true });
      inserter.write(page);
      inserter.end();
    },
    share: 5,
  },
  {
    name: 'htmlparser2, empty handlers',
    run: (page) => {
      const parser = new Parser({});
      parser.write(page.toString());
      parser.end();
    },
    share: 10,
  },
  {
    name: 'parse5-html-rewriting-stream',
    run: (page) => {
      const stream = new RewritingStream();
      stream.on('startTag', (tag) => stream.emitStartTag(tag));
      stream.resume();
      stream.end(page.toString());
    },
    share: 40,
  },
];

function speed({ run, share = 1 }: Way): number {
  const seen = pages.filter((_, i) => i % share === 0);
  const bytes = seen.reduce((sum, page) => sum + page.length, 0);
  const times = Math.max(1, Math.round(repeats / share));
  const start = process.hrtime.bigint();
  for (let i = 0; i < times; i++) seen.forEach(run);
  return (bytes * times * 1000) / Number(process.hrtime.bigint() - start);
}

let wrong = 0;
if (process.env['SKIP_CHECK'] !== '1') {
  for (const [i, page] of pages.entries()) {
    // Every page's result is compared with a whole parser; a page takes milliseconds.
    const fault = insertionFault(withoutMark(page), [777, 4096]);
    if (fault !== undefined) {
      wrong++;
      console.log(`${files[i]!}: ${fault}`);
    }
  }
}
const leftOut = pages.filter((page) =>
  insert(page, prepared).outcomes.some((outcome) => !outcome.inserted),
).length;
console.log(
  `${files.length} pages, ${(total / 1e6).toFixed(1)} MB; ${cpus()[0]!.model}, Node ${process.version}`,
);
console.log(`${wrong} pages wrong, ${leftOut} with a part left out\n`);

const results = new Map<string, number[]>(ways.map(({ name }) => [name, []]));
for (let round = 0; round < ROUNDS; round++) for (const way of ways) results.get(way.name)!.push(speed(way));
const middleOf = (figures: readonly number[]): number =>
  [...figures].sort((a, b) => a - b)[figures.length >> 1]!;
/** The median of the rounds' ratios: the machine may be faster in one round than in another, but hardly within one. */
const ratio = (name: string, to: string): number =>
  middleOf(results.get(name)!.map((figure, round) => figure / results.get(to)![round]!));
console.log('| way | MB/s, median (least–most) | of every < | × rewriting stream |');
console.log('| --- | ---: | ---: | ---: |');
for (const { name } of ways) {
  const speeds = results.get(name)!;
  const middle = middleOf(speeds);
  const spread = `${Math.min(...speeds).toFixed(0)}–${Math.max(...speeds).toFixed(0)}`;
  console.log(
    `| ${name} | ${middle.toFixed(middle < 20 ? 1 : 0)} (${spread}) | ${ratio(name, 'every < by indexOf').toFixed(2)} | ${ratio(name, 'parse5-html-rewriting-stream').toFixed(1)} |`,
  );
}
