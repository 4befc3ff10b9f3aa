/** Things by something they share, in their order. */
export function grouped<K, T>(items: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
  const found = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = found.get(key);
    if (group) group.push(item);
    else found.set(key, [item]);
  }
  return found;
}

/** Parts grouped by something they share, in page order; those that have nothing of it, and groups of one, are left out. */
export function groups<T>(items: readonly T[], keyOf: (item: T) => string | undefined): T[][] {
  return [...grouped(items, keyOf)].flatMap(([key, group]) =>
    key === undefined || group.length === 1 ? [] : [group],
  );
}
