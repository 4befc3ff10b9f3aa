import {
  copyFileSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { EXAMPLE_NOW, exampleSet } from '@pragmatica/core';
import { insertFolder } from '../packages/cli/dist/insert-folder/insert-folder.js';

/**
 * A folder of HTML beside a program that reads and writes every file of it and changes nothing, in turns; then the same
 * folder again with nothing changed, and after one page has.
 *
 * Usage: delivery [folder]
 */

const ROUNDS = 7;
const FOLDER = resolve(process.argv[2] ?? '/usr/share/doc/python3.11/html');

const SET = exampleSet([
  {
    name: 'Ask',
    parts: [{ placement: 'head-start', code: '<script src="https://biscuitkeel.example/ask.js"></script>' }],
  },
  {
    name: 'Count',
    parts: [{ placement: 'head-end', code: '<script async src="https://tallymast.example/t.js"></script>' }],
  },
  { name: 'Frame', parts: [{ placement: 'body-start', code: '<noscript><p>x</p></noscript>' }] },
  {
    name: 'Chat',
    parts: [{ placement: 'body-end', code: '<script async src="https://parlanook.example/c.js"></script>' }],
  },
]);

/** Reads and writes every file, as the insertion must, and changes nothing. */
function readAndWrite(from: string, to: string): void {
  const visit = (folder: string): void => {
    mkdirSync(join(to, relative(from, folder)), { recursive: true });
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const source = join(folder, entry.name);
      const target = join(to, relative(from, source));
      if (entry.isDirectory()) visit(source);
      else if (!entry.isFile()) continue;
      else if (/\.html?$/i.test(entry.name)) writeFileSync(target, readFileSync(source));
      else copyFileSync(source, target);
    }
  };
  visit(from);
}

const inserted = (to: string): ReturnType<typeof insertFolder> =>
  insertFolder({
    from: FOLDER,
    to,
    snapshot: SET,
    load: { environment: 'live', device: 'desktop', consent: [], at: EXAMPLE_NOW },
    hasCleanPaths: false,
  });

async function milliseconds(work: () => unknown): Promise<number> {
  const since = performance.now();
  await work();
  return performance.now() - since;
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

const scratch = mkdtempSync(join(tmpdir(), 'pragmatica-bench-'));
const figures: Record<'plain' | 'first' | 'again', number[]> = { plain: [], first: [], again: [] };
let pages = 0;
let others = 0;
for (let round = 0; round < ROUNDS; round++) {
  const [plain, out] = ['plain', 'out'].map((name) => join(scratch, name)) as [string, string];
  for (const folder of [plain, out]) rmSync(folder, { recursive: true, force: true });
  figures.plain.push(await milliseconds(() => readAndWrite(FOLDER, plain)));
  figures.first.push(
    await milliseconds(async () => {
      const report = await inserted(out);
      pages = report.pages.length;
      others = report.copied;
    }),
  );
  figures.again.push(await milliseconds(() => inserted(out)));
}
rmSync(scratch, { recursive: true });

const [plain, first, again] = (['plain', 'first', 'again'] as const).map((name) => median(figures[name]));
const row = (name: string, time: number, words: string): void =>
  console.log(`${name.padEnd(34)} ${time.toFixed(0).padStart(7)} ms   ${words}`);
console.log(
  `${FOLDER}: ${pages} pages, ${others} other files; ${cpus().length} × ${cpus()[0]?.model ?? ''}\n`,
);
row('read and write, nothing changed', plain!, '');
row('four parts into each page', first!, `${(plain! / first!).toFixed(2)} of that speed`);
row('again, nothing changed', again!, `${(first! / again!).toFixed(1)} times as fast as the first`);

/** The set-up scripts are JavaScript. */
interface WithDatabase {
  readonly withDatabase: (program: string, args: readonly string[]) => Promise<number>;
}
const script = new URL('../scripts/with-database.mjs', import.meta.url).href;
const { withDatabase } = (await import(script)) as WithDatabase;
const visits = fileURLToPath(new URL('delivery-pages.ts', import.meta.url));
process.exitCode = await withDatabase(process.execPath, ['--import', 'tsx', visits]);
