import { PageMatcher, type PageRules } from '../reach/index.js';

/**
 * Whether page rules meet, and whether one holds all pages of another, shown by a page that says so. Candidates are the
 * paths that the patterns themselves are made of and the site's known pages; where none of them tells, nothing is said.
 */
export class Pages {
  readonly #known: readonly string[];
  readonly #matchers = new Map<string, PageMatcher>();
  readonly #byRules = new WeakMap<PageRules, PageMatcher>();

  constructor(known: readonly string[]) {
    this.#known = known;
  }

  /** A page that both hold. */
  meeting(a: PageRules, b: PageRules): string | undefined {
    if (isAll(a) && isAll(b)) return '/';
    const [left, right] = [this.#matcher(a), this.#matcher(b)];
    return this.#candidates(a, b).find((path) => left.match(path).matches && right.match(path).matches);
  }

  /** A page of `inner` that `outer` does not hold. */
  outside(inner: PageRules, outer: PageRules): string | undefined {
    if (isAll(outer)) return undefined;
    const [left, right] = [this.#matcher(inner), this.#matcher(outer)];
    return this.#candidates(inner, outer).find(
      (path) => left.match(path).matches && !right.match(path).matches,
    );
  }

  /** Whether rules hold a page. */
  holds(rules: PageRules, path: string): boolean {
    return isAll(rules) || this.#matcher(rules).match(path).matches;
  }

  /** Whether rules made of plain paths alone hold no page. */
  isEmpty(rules: PageRules): boolean {
    if (rules.include.length === 0)
      return rules.exclude.some((pattern) => pattern === '/*' || pattern === '*');
    const matcher = this.#matcher(rules);
    const isPlain = rules.include.every((pattern) => /^[\w\-./~]*$/.test(pattern));
    return isPlain
      ? rules.include.every((path) => !matcher.match(path).matches)
      : rules.include.every((pattern) => rules.exclude.includes(pattern) || rules.exclude.includes('/*'));
  }

  #matcher(rules: PageRules): PageMatcher {
    let known = this.#byRules.get(rules);
    if (!known) this.#byRules.set(rules, (known = this.#matcherByText(rules)));
    return known;
  }

  #matcherByText(rules: PageRules): PageMatcher {
    const key = JSON.stringify([rules.include, rules.exclude]);
    let matcher = this.#matchers.get(key);
    if (!matcher) this.#matchers.set(key, (matcher = new PageMatcher(rules)));
    return matcher;
  }

  #candidates(a: PageRules, b: PageRules): string[] {
    const patterns = [...a.include, ...a.exclude, ...b.include, ...b.exclude];
    return ['/', ...patterns.flatMap(examples), ...this.#known, '/some-page'];
  }
}

function isAll(rules: PageRules): boolean {
  return rules.include.length === 0 && rules.exclude.length === 0;
}

/** Paths that a pattern is likely to match. */
function examples(pattern: string): string[] {
  const filled = pattern.replace(/\{([^{}]*)\}[?*+]?/g, '$1').replace(/:\w+(?:\([^)]*\))?[?*+]?/g, 'one');
  return [filled.replaceAll('*', ''), filled.replaceAll('*', 'one')];
}
