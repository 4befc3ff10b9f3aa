import Table from 'cli-table3';
import pc from 'picocolors';

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

const MIN_LAST_COLUMN = 24;
const DEFAULT_WIDTH = 100;

/** A table without lines. The last column is wrapped to the terminal. */
export function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const widths = head.map((title, column) =>
    Math.max(visible(title), ...rows.map((row) => visible(row[column] ?? ''))),
  );
  const others = widths.slice(0, -1).reduce((sum, width) => sum + width + 2, 0);
  const total = process.stdout.columns || DEFAULT_WIDTH;
  widths[widths.length - 1] = Math.max(MIN_LAST_COLUMN, Math.min(widths.at(-1)!, total - others - 2));
  const made = new Table({
    head: head.map((title) => colour.dim(title)),
    chars: BLANK,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colWidths: widths,
    wordWrap: true,
  });
  made.push(...rows.map((row) => [...row]));
  return trimLines(made.toString());
}

/** Text without spaces at the ends of its lines. */
function trimLines(text: string): string {
  return text.replace(/(?<![ \t])[ \t]+$/gm, '');
}

function visible(text: string): number {
  // eslint-disable-next-line no-control-regex -- colour codes take no room
  return Math.max(...text.split('\n').map((line) => line.replace(/\u001b\[\d+m/g, '').length));
}

/** Results go to standard output. */
export function print(text = ''): void {
  process.stdout.write(`${text}\n`);
}

export function printJson(value: unknown): void {
  print(JSON.stringify(value, null, 2));
}

/** Everything that is not the result goes to standard error. */
export function note(text: string): void {
  process.stderr.write(`${text}\n`);
}

/** One line on a terminal that is written over while work goes on; silent elsewhere. */
export class Progress {
  readonly #isShown = process.stderr.isTTY;

  update(text: string): void {
    if (this.#isShown) process.stderr.write(`\r\u001b[2K${text}`);
  }

  end(): void {
    if (this.#isShown) process.stderr.write('\r\u001b[2K');
  }
}

/** "1 page", "3 pages". */
export function count(number: number, one: string, many = `${one}s`): string {
  return `${number} ${number === 1 ? one : many}`;
}

/** A time as people read it, in their own zone: "2026-11-23 14:05". */
export function when(timestamp: string): string {
  const date = new Date(timestamp);
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())} ${two(date.getHours())}:${two(date.getMinutes())}`;
}
