/** A command of a paper, with the output that stands below it. */
export interface Example {
  /** As it is typed; comments and all. */
  readonly command: string;
  readonly output: readonly string[];
  /** Of the command, in the paper. */
  readonly line: number;
}

const PROMPT = '$ ';

/** The examples of a page in Markdown: the lines of blocks that begin with a prompt. */
export function examplesOf(markdown: string): Example[] {
  const examples: { command: string; output: string[]; line: number }[] = [];
  let isBlock = false;
  let isSession = false;
  let current: string[] | undefined;
  for (const [index, line] of markdown.split('\n').entries()) {
    if (line.startsWith('```')) {
      // A block of a language is no session.
      isSession = !isBlock && line === '```';
      isBlock = !isBlock;
      current = undefined;
    } else if (isSession && line.startsWith(PROMPT)) {
      current = [];
      examples.push({ command: line.slice(PROMPT.length), output: current, line: index + 1 });
    } else current?.push(line);
  }
  return examples.map(({ output, ...rest }) => ({ ...rest, output: withoutEmptyEnd(output) }));
}

function withoutEmptyEnd(lines: readonly string[]): string[] {
  const last = lines.findLastIndex((line) => line.trim() !== '');
  return lines.slice(0, last + 1);
}

/** A line that stands for any others. */
const ANY = /^\s*…$/;

/**
 * What is said otherwise than the paper has it: the first line of the paper that does not come, with the one that comes
 * in its place. Times, dates, ports and secrets are each other's equal; a line that ends in … may go on.
 */
export function differenceOf(written: readonly string[], said: string): string | undefined {
  const lines = withoutEmptyEnd(said.split('\n'));
  let at = 0;
  let mayLeaveOut = false;
  for (const line of written) {
    if (ANY.test(line)) {
      mayLeaveOut = true;
      continue;
    }
    const found = mayLeaveOut
      ? lines.findIndex((one, index) => index >= at && isSame(line, one))
      : isSame(line, lines[at] ?? '')
        ? at
        : -1;
    if (found < 0) return `“${line}” is not said; there is “${lines[at] ?? 'nothing more'}”`;
    at = found + 1;
    mayLeaveOut = false;
  }
  if (!mayLeaveOut && at < lines.length) return `“${lines[at]!}” is said as well`;
  return undefined;
}

/** What differs from run to run. */
const VARYING: readonly (readonly [RegExp, string])[] = [
  [/localhost:\d+/g, 'localhost:PORT'],
  [
    /\b(?:\w+day )?\d{1,2} (?:January|February|March|April|May|June|July|August|September|October|November|December) 20\d\d(?:, \d\d:\d\d)?/g,
    'DATE',
  ],
  [/\b20\d\d-\d\d-\d\d \d\d:\d\d/g, 'TIME'],
  [/(?<!\d)\d{1,6}(?:\.\d{1,3})? m?s\b/g, 'DURATION'],
  [/(?<=by )(?:set-up|admin)/g, 'SOMEBODY'],
  // Pages are read side by side, so things are found in any order.
  [/^\d+ +(?=(?:copy|ours|altered|foreign) )/g, 'ID '],
  [/\b[0-9a-f]{20}(?=\.js)/g, 'HASH'],
  [/(?<=pragmatica-preview=)[\w.-]+/g, 'SECRET'],
];

function isSame(written: string, said: string): boolean {
  const [one, other] = [plain(written), plain(said)];
  if (one === other) return true;
  const [start, rest] = [one.replace(/…$/, ''), other.replace(/…$/, '')];
  if (start === one && rest === other) return false;
  return start.startsWith(rest) || rest.startsWith(start);
}

function plain(line: string): string {
  return VARYING.reduce((text, [pattern, name]) => text.replace(pattern, name), line.trimEnd());
}
