/** Where a page of a list ends: what its last row is sorted by. In addresses, as text that says nothing. */
export function toCursor(position: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(position)).toString('base64url');
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
