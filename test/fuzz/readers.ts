import { Worker } from 'node:worker_threads';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { hostilePage } from '../support/hostile-pages.js';

/**
 * Inputs that nobody would write, for whatever reads what a stranger wrote. An input fails when reading it throws, ends
 * the process, or takes longer than its bound; it is saved then, so that it can be looked at.
 */
export type Reader = 'read' | 'check' | 'pattern';

const root = fileURLToPath(new URL('../..', import.meta.url));
/** For inputs of up to some hundred kilobytes; most take a millisecond. */
export const BOUND_MS = 3_000;

const PIECES = [
  ...[
    '<script>',
    '</script>',
    '<style>',
    '</style>',
    '<!--',
    '-->',
    '<template>',
    '</template>',
    '<noscript>',
  ],
  ...[
    '`${',
    '}`',
    '(',
    ')',
    '[',
    ']',
    '{',
    '}',
    '"',
    "'",
    '\\',
    '//',
    '/*',
    '*/',
    ';',
    '=',
    '=>',
    '+',
    'a',
    '.b',
    '()',
  ],
  ...[
    'function a(',
    'var a=',
    'a=a+a;',
    'document.write(',
    'window.a=',
    'if(',
    'else ',
    'new ',
    '!',
    'async ',
    'await ',
  ],
  ...[
    '&amp',
    '&#x',
    '@{a}',
    '@{',
    '<div',
    ' a=b',
    '>',
    '<svg>',
    '<table>',
    '<a>',
    '<b>',
    '<p>',
    '<select>',
    '\n',
    ' ',
  ],
  ...[
    '#a.b:not(',
    '@media ',
    'url(',
    '@import ',
    'https://a.example/',
    'YOUR_ID',
    '0000000',
    'before the closing body tag ',
  ],
];

/** Pieces in any order, some of them over and over: what is repeated is what a loop in a loop does not survive. */
const code = fc
  .array(
    fc.tuple(
      fc.oneof(fc.constantFrom(...PIECES), fc.string({ maxLength: 8 })),
      fc.oneof(
        { weight: 8, arbitrary: fc.integer({ min: 1, max: 4 }) },
        { weight: 1, arbitrary: fc.integer({ min: 100, max: 20_000 }) },
      ),
    ),
    { minLength: 1, maxLength: 24 },
  )
  .map((runs) =>
    runs
      .map(([piece, times]) => piece.repeat(times))
      .join('')
      .slice(0, 300_000),
  );

const pattern = fc.tuple(
  fc
    .array(
      fc.constantFrom(
        '/',
        'a',
        '*',
        ':x',
        '{',
        '}',
        '?',
        '+',
        '(a|b)',
        '((?:a+)+)',
        '(.*)',
        '(\\d{1,9})',
        '([a-z]+-?)+',
        '.',
        '-',
      ),
      { maxLength: 14 },
    )
    .map((pieces) => `/${pieces.join('')}`),
  fc
    .tuple(fc.constantFrom('a', 'ab', '-', 'a-', '/a', '1'), fc.integer({ min: 1, max: 20_000 }))
    .map(([piece, times]) => `/${piece.repeat(times)}x`),
);

export function inputsFor(what: Reader, seed: number, runs: number): string[] {
  if (what === 'pattern')
    return fc.sample(pattern, { seed, numRuns: runs }).map((pair) => JSON.stringify(pair));
  const pages = fc.sample(hostilePage(40), { seed, numRuns: Math.ceil(runs / 4) });
  return [...fc.sample(code, { seed, numRuns: runs }), ...pages];
}

/** Tries inputs in a thread, which is ended where it takes too long. @returns faults */
export class ReaderUnderTest {
  readonly #what: Reader;
  #worker: Worker | undefined;

  constructor(what: Reader) {
    this.#what = what;
  }

  async fault(input: string): Promise<string | undefined> {
    this.#worker ??= new Worker(new URL('./reader-thread.mjs', import.meta.url), { workerData: this.#what });
    const worker = this.#worker;
    return new Promise<string | undefined>((resolve) => {
      const done = (fault: string | undefined, isOver: boolean): void => {
        clearTimeout(late);
        worker.off('message', heard).off('error', threw).off('exit', ended);
        if (isOver) {
          this.#worker = undefined;
          void worker.terminate();
        }
        resolve(fault);
      };
      const heard = (fault: string | undefined): void => done(fault, false);
      const threw = (error: unknown): void => done(String(error), true);
      const ended = (): void => done('ended the thread', true);
      const late = setTimeout(() => done(`took longer than ${BOUND_MS} ms`, true), BOUND_MS);
      worker.on('message', heard).on('error', threw).on('exit', ended);
      worker.postMessage(input);
    });
  }

  async close(): Promise<void> {
    await this.#worker?.terminate();
  }
}

/** Keeps an input that failed. @returns its file */
export function save(what: string, seed: number, number: number, input: string): string {
  const folder = join(root, '.cache/fuzz');
  mkdirSync(folder, { recursive: true });
  const file = join(folder, `${what}-${seed}-${number}.txt`);
  writeFileSync(file, input);
  return file;
}
