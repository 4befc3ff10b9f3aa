import { PageInserter, insert, type InsertPart, type NamedPlacement } from '@pragmatica/core';
import { PageTree, bodyEndTag, isMark, mark, solid } from './page-tree.js';

const PLACEMENTS: readonly NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end'];

/** A marked script at each named placement. */
export const MARKED_PARTS: readonly InsertPart[] = PLACEMENTS.map((placement) => ({
  key: placement,
  placement,
  code: mark(placement),
}));
const BODY_END = MARKED_PARTS.filter((part) => part.placement === 'body-end');

/** A page as it comes out when it goes in by pieces of these sizes, the rest in one. */
export function inChunks(
  bytes: Uint8Array,
  sizes: readonly number[],
  parts: readonly InsertPart[],
  plain: boolean,
): string {
  const inserter = new PageInserter(parts, { plain, encoding: 'latin1' });
  const out: Uint8Array[] = [];
  let at = 0;
  for (const size of sizes) {
    if (at >= bytes.length) break;
    out.push(...inserter.write(bytes.subarray(at, at + size)));
    at += size;
  }
  if (at < bytes.length) out.push(...inserter.write(bytes.subarray(at)));
  out.push(...inserter.end());
  return Buffer.concat(out).toString('latin1');
}

/** A page without its byte order mark, which would be text to what it is compared with. */
export function withoutMark(page: Uint8Array): Uint8Array {
  return page[0] === 0xef && page[1] === 0xbb && page[2] === 0xbf ? page.subarray(3) : page;
}

/**
 * Everything that must hold of insertion into a page, held against a whole parser.
 * @returns what does not hold
 */
export function insertionFault(bytes: Uint8Array, sizes: readonly number[]): string | undefined {
  // One character for each byte: the markup is the same in every encoding of real pages, and offsets are offsets.
  const html = Buffer.from(bytes).toString('latin1');
  const { page, outcomes } = insert(bytes, MARKED_PARTS, { encoding: 'latin1' });
  const whole = Buffer.from(page).toString('latin1');
  if (inChunks(bytes, sizes, MARKED_PARTS, true) !== whole)
    return 'in chunks, and in JavaScript, another page comes out';
  const quick = Buffer.from(insert(bytes, BODY_END, { encoding: 'latin1' }).page).toString('latin1');
  if (inChunks(bytes, sizes, BODY_END, false) !== quick) return 'the end of the body depends on the chunks';
  if (inChunks(bytes, sizes, BODY_END, true) !== quick) return 'the end of the body differs in JavaScript';
  const tree = new PageTree(whole);
  for (const { key, inserted } of outcomes)
    if ((tree.mark(key) !== undefined) !== inserted) return `${key} is not where its outcome says`;
  const stands = (key: string): boolean =>
    outcomes.some((outcome) => outcome.key === key && outcome.inserted);
  if (stands('head-start') && !isMark(solid(tree.head!)[0]!, 'head-start')) return 'not first in the head';
  if (stands('head-end') && tree.mark('head-end')!.parentNode !== tree.head) return 'not in the head';
  if (stands('body-start') && !isMark(solid(tree.body!)[0]!, 'body-start')) return 'not first in the body';
  const ownEnd = bodyEndTag(html);
  const end = outcomes.find((outcome) => outcome.key === 'body-end')!;
  if (ownEnd !== undefined && end.inserted && end.offset !== ownEnd)
    return 'not at the page’s own end tag of the body';
  if (tree.withoutMarks() !== new PageTree(html).withoutMarks()) return 'the page has changed';
  return undefined;
}
