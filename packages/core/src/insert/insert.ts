import { concatBytes } from './bytes.js';
import { PageInserter } from './page-inserter.js';
import type { PreparedParts } from './prepare.js';
import type { InsertOptions, InsertPart, InsertResult } from './types.js';

/**
 * Puts parts into a whole page.
 *
 * @param page - bytes in the page's own encoding, or text, which is taken as UTF-8
 * @param parts - in the order in which they are to stand within each placement
 * @returns the new page as bytes and, for each part, where it went or why it did not
 */
export function insert(
  page: Uint8Array | string,
  parts: readonly InsertPart[] | PreparedParts,
  options: InsertOptions = {},
): InsertResult {
  const isText = typeof page === 'string';
  const bytes = isText ? new TextEncoder().encode(page) : page;
  const inserter = new PageInserter(parts, isText ? { ...options, encoding: 'utf-8' } : options);
  const out = [...inserter.write(bytes), ...inserter.end()];
  return { page: concatBytes(out.length > 0 ? out : [new Uint8Array(0)]), outcomes: inserter.outcomes };
}
