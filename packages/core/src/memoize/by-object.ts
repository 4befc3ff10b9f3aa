/**
 * Work that is done once for an object and kept as long as the object is. What is read out of code is one object for as
 * long as the code stays the same, so after an edit only what the edit touches is worked out again.
 */
export function memoizeByObject<K extends object, T>(work: (object: K) => T): (object: K) => T {
  const kept = new WeakMap<K, { readonly value: T }>();
  return (object) => {
    let entry = kept.get(object);
    if (!entry) kept.set(object, (entry = { value: work(object) }));
    return entry.value;
  };
}
