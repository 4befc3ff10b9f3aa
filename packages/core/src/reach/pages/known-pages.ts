import { pageMatcher, PatternSet } from './page-matcher.js';
import type { PageAddress } from './page-address.js';
import type { PageRules } from './page-rules.js';

/** Pages that all patterns of a site match alike. */
interface PageClass {
  /** The first of them. */
  readonly page: PageAddress;
  /** Numbers of the patterns that match them. */
  readonly matched: ReadonlySet<number>;
}

/** Which of some pages rules hold. What is asked costs as much as there are kinds of pages, not as there are pages. */
export class KnownPages {
  readonly #pages: readonly PageAddress[];
  readonly #patterns: readonly string[];
  readonly #numbers: ReadonlyMap<string, number>;
  /** By host; worked out when it is first asked for. */
  readonly #classes = new Map<string, readonly PageClass[]>();
  readonly #held = new Map<string, readonly boolean[]>();

  /** @param patterns - those that rules are likely to have, each once; others are tried on each page */
  constructor(pages: readonly PageAddress[], patterns: readonly string[]) {
    this.#pages = pages;
    this.#patterns = patterns;
    this.#numbers = new Map(patterns.map((pattern, number) => [pattern, number]));
  }

  /** The first page, in the order in which they are known, that all of some rules hold and none of others. */
  first(
    held: readonly PageRules[],
    notHeld: readonly PageRules[],
    host: string | undefined,
  ): PageAddress | undefined {
    const all = [...held, ...notHeld];
    if (!all.every((rules) => this.#isPrepared(rules))) return this.#tryAll(held, notHeld, host);
    const classes = this.#classesOf(host);
    const wanted = held.map((rules) => this.#heldClasses(rules, host));
    const unwanted = notHeld.map((rules) => this.#heldClasses(rules, host));
    const index = classes.findIndex(
      (_, i) =>
        wanted.every((classesHeld) => classesHeld[i]) && !unwanted.some((classesHeld) => classesHeld[i]),
    );
    return classes[index]?.page;
  }

  #isPrepared({ include, exclude }: PageRules): boolean {
    const isKnown = (pattern: string): boolean => this.#numbers.has(pattern);
    return include.every(isKnown) && exclude.every(isKnown);
  }

  #classesOf(host: string | undefined): readonly PageClass[] {
    const key = host ?? '';
    let classes = this.#classes.get(key);
    if (!classes) this.#classes.set(key, (classes = this.#work(host)));
    return classes;
  }

  #work(host: string | undefined): PageClass[] {
    const set = new PatternSet(this.#patterns);
    const classes = new Map<string, PageClass>();
    /** Pages that are alike have one array, mostly. */
    const seen = new Set<readonly number[]>();
    for (const page of this.#pages) {
      const there = host === undefined ? page : { ...page, host };
      const matched = set.match(there);
      if (seen.has(matched)) continue;
      seen.add(matched);
      const key = matched.join();
      if (!classes.has(key)) classes.set(key, { page: there, matched: new Set(matched) });
    }
    return [...classes.values()];
  }

  #heldClasses(rules: PageRules, host: string | undefined): readonly boolean[] {
    const { include, exclude } = rules;
    const key = JSON.stringify([host ?? '', include, exclude]);
    let held = this.#held.get(key);
    if (!held) {
      const included = include.map((pattern) => this.#numbers.get(pattern)!);
      const excluded = exclude.map((pattern) => this.#numbers.get(pattern)!);
      held = this.#classesOf(host).map(
        ({ matched }) =>
          (included.length === 0 || included.some((number) => matched.has(number))) &&
          !excluded.some((number) => matched.has(number)),
      );
      this.#held.set(key, held);
    }
    return held;
  }

  #tryAll(
    held: readonly PageRules[],
    notHeld: readonly PageRules[],
    host: string | undefined,
  ): PageAddress | undefined {
    const wanted = held.map(pageMatcher);
    const unwanted = notHeld.map(pageMatcher);
    for (const page of this.#pages) {
      const there = host === undefined ? page : { ...page, host };
      if (
        wanted.every((matcher) => matcher.match(there).matches) &&
        !unwanted.some((matcher) => matcher.match(there).matches)
      )
        return there;
    }
    return undefined;
  }
}
