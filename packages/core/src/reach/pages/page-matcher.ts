import { memoizeByText } from '../../memoize/by-text.js';
import { PageAutomaton } from './automaton.js';
import { pageAddress, pageText, type PageAddress } from './page-address.js';
import { readPagePattern, type PagePattern } from './page-pattern.js';
import type { PageRules } from './page-rules.js';

/** Why a page is or is not in reach; `pattern` is the one that decided, if one did. */
export type PageMatch =
  | { readonly matches: true; readonly pattern?: string }
  | { readonly matches: false; readonly because: 'not-included' | 'excluded'; readonly pattern?: string };

/** Many patterns asked at once. What is no valid pattern matches nothing; it is refused where it is entered. */
export class PatternSet {
  readonly #automaton: PageAutomaton;

  /** @param sources - each once; a pattern is known by its place in the list */
  constructor(sources: readonly string[]) {
    this.#automaton = new PageAutomaton(sources.map(readOrNothing));
  }

  /** Numbers of the patterns that match, ascending. The same array for pages that are alike. */
  match(address: PageAddress): readonly number[] {
    return this.#automaton.match(pageText(address));
  }
}

/** @returns undefined for what is no valid pattern */
export const readOrNothing = (source: string): PagePattern | undefined => {
  try {
    return readPagePattern(source);
  } catch {
    return undefined;
  }
};

/** Page rules made ready for many questions. */
export class PageMatcher {
  readonly #rules: PageRules;
  readonly #set: PatternSet;

  /** @param rules - without groups */
  constructor(rules: PageRules) {
    this.#rules = rules;
    this.#set = new PatternSet([...rules.exclude, ...rules.include]);
  }

  /** @param page - a path, with or without search, or an address */
  match(page: string | PageAddress): PageMatch {
    const { include, exclude } = this.#rules;
    if (include.length === 0 && exclude.length === 0) return { matches: true };
    const [first] = this.#set.match(typeof page === 'string' ? pageAddress(page) : page);
    if (first !== undefined && first < exclude.length)
      return { matches: false, because: 'excluded', pattern: exclude[first]! };
    if (first !== undefined) return { matches: true, pattern: include[first - exclude.length]! };
    return include.length === 0 ? { matches: true } : { matches: false, because: 'not-included' };
  }
}

const matchers = memoizeByText(2_000, (rules) => new PageMatcher(JSON.parse(rules) as PageRules));

/** A matcher for the rules; equal rules share one. */
export function pageMatcher({ include, exclude }: PageRules): PageMatcher {
  return matchers(JSON.stringify({ include, exclude }));
}
