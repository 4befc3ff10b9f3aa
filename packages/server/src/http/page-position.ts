import { errorAt } from '../errors.js';
import { readCursor } from '../storage/cursor.js';

/**
 * Where a page of a list begins, from the query's `after`.
 *
 * @param shape - the position of any row, which says what it is made of
 * @throws ServiceError 422 for what no list gave
 */
export function pagePosition<T extends readonly (string | number)[]>(
  after: string | undefined,
  shape: T,
): T | undefined {
  if (after === undefined) return undefined;
  const position = readCursor(after, shape);
  if (position) return position;
  throw errorAt('/after', 'page-unknown', {});
}

/** The same of a list that begins with the newest, whose rows are numbered. */
export function numberPosition(after: string | undefined): readonly [number: number] | undefined {
  return pagePosition(after, [0] as readonly [number: number]);
}
