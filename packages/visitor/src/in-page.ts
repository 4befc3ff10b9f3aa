/**
 * A function as text that a page can run. Tools that keep the names of functions write calls of a helper into them, which no page
 * has.
 */
export function inPage(work: (...args: never[]) => unknown): string {
  return `function(...given){const __name=(made)=>made;return (${work.toString()})(...given)}`;
}

/** The same as a call with values. */
export function callInPage(work: (...args: never[]) => unknown, ...values: readonly unknown[]): string {
  return `(${inPage(work)})(${values.map((value) => JSON.stringify(value)).join()})`;
}
