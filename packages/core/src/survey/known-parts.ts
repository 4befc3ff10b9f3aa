import { isAnchor, writtenCode } from '../insert/index.js';
import type { PlannedPart } from '../plan/index.js';
import { decodePage } from './decode.js';
import type { Range } from '../facts/index.js';
import type { AttributedItem, FoundPart, PageItem } from './types.js';

/**
 * Looks for the parts of a page plan in a page's text, just as they are written into pages of its encoding.
 *
 * @param charset - name in the Encoding Standard
 */
export function findParts(text: string, parts: readonly PlannedPart[], charset: string): FoundPart[] {
  return parts.map(({ key, code }) => ({ part: key, at: occurrences(text, asWritten(code, charset)) }));
}

/** Code as it reads in a page: characters that an encoding lacks are written as references or escapes. */
function asWritten(code: string, charset: string): string {
  if (charset === 'utf-8' || isAscii(code)) return code;
  const bytes = writtenCode(code, charset);
  return bytes ? decodePage(bytes, `text/html; charset=${charset}`).text : '';
}

function isAscii(text: string): boolean {
  for (let i = 0; i < text.length; i++) if (text.charCodeAt(i) > 0x7f) return false;
  return true;
}

function occurrences(text: string, code: string): Range[] {
  const found: Range[] = [];
  if (code === '') return found;
  for (let at = text.indexOf(code); at >= 0; at = text.indexOf(code, at + code.length))
    found.push({ start: at, end: at + code.length });
  return found;
}

/** Where a part of ours stands in a page's text. */
export interface OwnRange {
  readonly part: string;
  readonly range: Range;
}

/**
 * Where our own parts stand. Of a part that stands there more than once only one is ours: the one nearest to where
 * insertion puts parts of its placement; the others were there before.
 */
export function ownRanges(found: readonly FoundPart[], parts: readonly PlannedPart[]): OwnRange[] {
  const placements = new Map(parts.map(({ key, placement }) => [key, placement]));
  return found.flatMap(({ part, at }) => {
    const placement = placements.get(part);
    // Ends stand behind what the page has there itself, starts and anchors before it.
    const isEnd =
      placement === 'head-end' ||
      placement === 'body-end' ||
      (placement !== undefined && isAnchor(placement) && placement.side === 'inside-end');
    const chosen = isEnd ? at.at(-1) : at[0];
    return chosen ? [{ part, range: chosen }] : [];
  });
}

/** Says of each item which part of ours it belongs to. */
export function attributeItems(items: readonly PageItem[], own: readonly OwnRange[]): AttributedItem[] {
  return items.map((item) => ({
    ...item,
    part: own.find(({ range }) => range.start <= item.range.start && item.range.end <= range.end)?.part,
  }));
}
