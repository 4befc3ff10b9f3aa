/**
 * Finds the newest of former versions that is well. The last one is tried first, for that is mostly it, then the oldest; between a
 * version that is well and a later one that is not, halves are tried (binary search), so that of n versions about 2 + log2 n are.
 *
 * @param count - of versions, the oldest first; at least one
 * @param isWell - asks for a visit; undefined where it could not be told
 * @returns its place among them; null where none is well, undefined where it could not be told
 */
export async function newestWell(
  count: number,
  isWell: (version: number) => Promise<boolean | undefined>,
): Promise<number | null | undefined> {
  const last = await isWell(count - 1);
  if (last === undefined) return undefined;
  if (last) return count - 1;
  if (count === 1) return null;
  const first = await isWell(0);
  if (first === undefined) return undefined;
  if (!first) return null;
  let well = 0;
  let bad = count - 1;
  while (bad - well > 1) {
    const middle = (well + bad) >> 1;
    const found = await isWell(middle);
    if (found === undefined) return undefined;
    if (found) well = middle;
    else bad = middle;
  }
  return well;
}
