/** Parts grouped by something they share, in page order; groups of one are left out. */
export function groups<T>(items: readonly T[], keyOf: (item: T) => string | undefined): T[][] {
  const found = new Map<string, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    if (key === undefined) continue;
    const group = found.get(key);
    if (group) group.push(item);
    else found.set(key, [item]);
  }
  return [...found.values()].filter((group) => group.length > 1);
}
