import type { DeliveryState, PartDelivery } from './delivered.js';

/** What was found on one page; `parts` is empty where the page could not be had. */
export interface VerifiedPage {
  readonly path: string;
  readonly parts: readonly PartDelivery[];
}

/** What was found of one snippet on all pages. */
export interface SnippetDelivery {
  readonly snippet: string;
  readonly name: string;
  /** On how many pages each state was found, the states from well to worst. */
  readonly pages: readonly { readonly state: DeliveryState; readonly count: number }[];
  /** What is wrong, each with the pages on which it is. */
  readonly problems: readonly { readonly message: string; readonly paths: readonly string[] }[];
}

/** From well to worst. A part that found no place on a page is reported, but the delivery did what it could. */
const SEVERITY: readonly DeliveryState[] = ['delivered', 'left-out', 'twice', 'wrong-place', 'missing'];

/** Whether a state means that visitors do not get what was published. */
export function isDeliveryFault(state: DeliveryState): boolean {
  return SEVERITY.indexOf(state) > SEVERITY.indexOf('left-out');
}

/** Sums pages up by snippet. On a page a snippet counts as its worst part: half an install is no install. */
export function summarizeDelivery(pages: readonly VerifiedPage[]): SnippetDelivery[] {
  const found = new Map<
    string,
    { name: string; counts: Map<DeliveryState, number>; problems: Map<string, string[]> }
  >();
  for (const page of pages) {
    const worst = new Map<string, DeliveryState>();
    for (const part of page.parts) {
      let entry = found.get(part.snippet);
      if (!entry) {
        entry = { name: part.name, counts: new Map(), problems: new Map() };
        found.set(part.snippet, entry);
      }
      if (part.state !== 'delivered')
        entry.problems.set(part.message, [...(entry.problems.get(part.message) ?? []), page.path]);
      const before = worst.get(part.snippet);
      if (before === undefined || SEVERITY.indexOf(part.state) > SEVERITY.indexOf(before))
        worst.set(part.snippet, part.state);
    }
    for (const [snippet, state] of worst) {
      const { counts } = found.get(snippet)!;
      counts.set(state, (counts.get(state) ?? 0) + 1);
    }
  }
  return [...found].map(([snippet, { name, counts, problems }]) => ({
    snippet,
    name,
    pages: SEVERITY.flatMap((state) => (counts.has(state) ? [{ state, count: counts.get(state)! }] : [])),
    problems: [...problems].map(([message, paths]) => ({ message, paths: [...new Set(paths)] })),
  }));
}
