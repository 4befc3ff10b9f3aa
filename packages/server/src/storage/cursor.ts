/** Where a page of a list ends: what its last row is sorted by. In addresses, as text that says nothing. */
function toCursor(position: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(position)).toString('base64url');
}

/**
 * A page of a list, of rows that were asked for with one more than it may have.
 *
 * @param position - what a row is sorted by
 * @returns the page, and the cursor of its end; null where nothing follows
 */
export function toPage<T>(
  rows: readonly T[],
  limit: number,
  position: (row: T) => readonly (string | number)[],
): { readonly page: readonly T[]; readonly next: string | null } {
  const page = rows.slice(0, limit);
  return { page, next: rows.length > limit ? toCursor(position(page.at(-1)!)) : null };
}

/** @returns undefined for a text that is no cursor of this shape @param shape - a position of any row */
export function readCursor<T extends readonly (string | number)[]>(text: string, shape: T): T | undefined {
  try {
    const read: unknown = JSON.parse(Buffer.from(text, 'base64url').toString('utf8'));
    const fits =
      Array.isArray(read) &&
      read.length === shape.length &&
      read.every((value, index) => typeof value === typeof shape[index]);
    return fits ? (read as unknown as T) : undefined;
  } catch {
    return undefined;
  }
}
