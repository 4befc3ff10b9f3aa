import { memoizeByText } from '../memoize/by-text.js';

/** Line and column of an offset, both from 1. Lines end at LF, CR LF or CR. */
export function lineAndColumn(text: string, offset: number): { line: number; column: number } {
  const starts = lineStarts(text);
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (starts[middle]! <= offset) low = middle;
    else high = middle - 1;
  }
  return { line: low + 1, column: offset - starts[low]! + 1 };
}

/** Many places of one text are asked for in a row. */
const TEXTS_KEPT = 16;

/** Offsets at which the lines of a text begin. */
const lineStarts = memoizeByText(TEXTS_KEPT, (text): readonly number[] => {
  const starts = [0];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 0x0a || (code === 0x0d && text.charCodeAt(i + 1) !== 0x0a)) starts.push(i + 1);
  }
  return starts;
});

/** Length in UTF-8. */
export function utf8Length(text: string): number {
  let length = 0;
  for (const character of text) {
    const code = character.codePointAt(0)!;
    length += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return length;
}

/** A value cut to a length that fits into a sentence. */
export function shortened(text: string, length = 60): string {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length <= length ? line : `${line.slice(0, length - 1)}…`;
}
