import Table from 'cli-table3';
import pc from 'picocolors';
import wrapAnsi from 'wrap-ansi';
import { writeOut } from './pager.js';
import { isWidthKnown, terminalWidth } from './terminal-width.js';

/** Colour only on a terminal, and never with NO_COLOR; the package looks at both. */
export const colour = pc;

const BLANK = {
  top: '',
  'top-mid': '',
  'top-left': '',
  'top-right': '',
  bottom: '',
  'bottom-mid': '',
  'bottom-left': '',
  'bottom-right': '',
  left: '',
  'left-mid': '',
  mid: '',
  'mid-mid': '',
  right: '',
  'right-mid': '',
  middle: '  ',
};

/** A column is made no narrower than this. */
const MIN_COLUMN = 8;
/** The last one in a pipe. */
const MIN_LAST_COLUMN = 24;
const GAP = 2;

/** What stands in a cell: one line, or several. */
export type Cell = string | readonly string[];

/**
 * A table without lines. On a terminal it is as wide as that at most: the widest columns are wrapped, as little as will do.
 * Elsewhere, as in a pipe, only the last one is, so that programs find the others in one line.
 */
export function table(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const cells = rows.map((row) => row.map((cell) => [cell].flat().map(oneLine).join('\n')));
  const natural = head.map((title, column) =>
    Math.max(visible(title), ...cells.map((row) => visible(row[column] ?? ''))),
  );
  const room = terminalWidth() - 1;
  const widths = isWidthKnown() ? fitted(natural, room) : [...natural.slice(0, -1), lastWidth(natural, room)];
  const made = new Table({
    head: head.map((title) => colour.dim(title)),
    chars: BLANK,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colWidths: widths,
    wordWrap: true,
  });
  made.push(...cells.map((row) => row.map((cell, column) => breakable(cell, widths[column]!))));
  return trimLines(made.toString());
}

function lastWidth(widths: readonly number[], room: number): number {
  const others = widths.slice(0, -1).reduce((sum, width) => sum + width + GAP, 0);
  return Math.max(MIN_LAST_COLUMN, Math.min(widths.at(-1)!, room - others - 1));
}

/** Widths of columns that are together no wider than there is room, where that can be. */
function fitted(widths: readonly number[], room: number): number[] {
  const made = [...widths];
  for (;;) {
    const over = made.reduce((sum, width) => sum + width, 0) + GAP * (made.length - 1) - room;
    const widest = Math.max(...made);
    if (over <= 0 || widest <= MIN_COLUMN) return made;
    // Down to the next widest, all that are as wide together.
    const wide = made.flatMap((width, column) => (width === widest ? [column] : []));
    const next = Math.max(MIN_COLUMN, ...made.filter((width) => width < widest));
    const each = Math.min(widest - next, Math.ceil(over / wide.length));
    for (const column of wide) made[column]! -= each;
  }
}

/** The package cuts off a word that is wider than its column; a host's name is better broken. */
function breakable(cell: string, width: number): string {
  return cell.replace(/\S+/g, (word) => {
    const isShort = word.length <= width || word.includes('\u001b');
    return isShort ? word : word.match(new RegExp(`.{1,${width}}`, 'gu'))!.join('\n');
  });
}

/** A cell is one line: a line break in a name must not look like another row. */
function oneLine(text: string): string {
  return shown(text.replace(/\r?\n/g, ' ↵ '));
}

/** Text without spaces at the ends of its lines. */
function trimLines(text: string): string {
  return text.replace(/(?<![ \t])[ \t]+$/gm, '');
}

function visible(text: string): number {
  // eslint-disable-next-line no-control-regex -- colour codes take no room
  return Math.max(...text.split('\n').map((line) => line.replace(/\u001b\[\d+m/g, '').length));
}

/** Colours as the package writes them; only these may pass, and only where colours are on. */
// eslint-disable-next-line no-control-regex -- the escape character itself
const OWN_COLOUR = /^\u001b\[(?:0|1|2|3|4|22|23|24|3[0-7]|39|4[0-7]|49|9[0-7])m/;

/**
 * A text as a terminal may show it. What stands in names and code was written by others: control characters (C0, C1)
 * are written out, so that nobody moves the cursor, changes the title or hides a line.
 */
export function shown(text: string): string {
  return text.replace(/[\p{Cc}\u2028\u2029]/gu, (sign, at: number) => {
    if (sign === '\n' || sign === '\t') return sign;
    if (sign === '\u001b' && colour.isColorSupported && OWN_COLOUR.test(text.slice(at, at + 6))) return sign;
    return `\\x${sign.charCodeAt(0).toString(16).padStart(2, '0')}`;
  });
}

/** Results go to standard output. */
export function print(text = ''): void {
  writeOut(`${shown(text)}\n`);
}

/** Results in sentences: on a terminal they are wrapped, and go on below where they begin. */
export function printProse(text = ''): void {
  print(isWidthKnown() ? wrapped(shown(text), terminalWidth()) : text);
}

/** What stands before the words of a line: spaces, colours, and the sign of an entry. */
// eslint-disable-next-line no-control-regex -- colour codes take no room
const LINE_START = /^(?: |\u001b\[\d+m)*(?:[→•·✓✗✔○](?:\u001b\[\d+m)* +)?/u;

/** Lines of at most so many columns, each going on below its first word. */
export function wrapped(text: string, width: number): string {
  return text
    .split('\n')
    .map((line) => {
      const start = LINE_START.exec(line)![0];
      const indent = visible(start);
      if (visible(line) <= width || indent > width / 2) return line;
      const rest = wrapAnsi(line.slice(start.length), width - indent, { hard: false, trim: true });
      return start + rest.replaceAll('\n', `\n${' '.repeat(indent)}`);
    })
    .join('\n');
}

/** JSON escapes C0 itself; C1 is as much a terminal's. */
export function printJson(value: unknown): void {
  const json = JSON.stringify(value, null, 2);
  writeOut(
    `${json.replace(/[\u007f-\u009f\u2028\u2029]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`)}\n`,
  );
}

/** Everything that is not the result goes to standard error. */
export function note(text: string): void {
  process.stderr.write(`${shown(text)}\n`);
}

/** One line on a terminal that is written over while work goes on; silent elsewhere. */
export class Progress {
  readonly #isShown = process.stderr.isTTY;

  update(text: string): void {
    if (this.#isShown) process.stderr.write(`\r\u001b[2K${oneLine(text)}`);
  }

  end(): void {
    if (this.#isShown) process.stderr.write('\r\u001b[2K');
  }
}

/** A line of at most so many characters, with a sign where it was cut. */
export function clipped(line: string, length: number): string {
  return line.length > length ? `${line.slice(0, length - 1)}…` : line;
}

/** A time as people read it, in their own zone: "2026-11-23 14:05". */
export function when(timestamp: string): string {
  const date = new Date(timestamp);
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())} ${two(date.getHours())}:${two(date.getMinutes())}`;
}
