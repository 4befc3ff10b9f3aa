import { memoizeByText } from '../../memoize/by-text.js';
import { pageAddress, type PageAddress } from './page-address.js';
import { PageLanguage, shortestPage, type Condition } from './page-language.js';
import { KnownPages } from './known-pages.js';
import { pageMatcher } from './page-matcher.js';
import type { PageRules } from './page-rules.js';

/** A page that shows something, and whether the answer holds for every possible page. */
export interface PageAnswer {
  readonly page: PageAddress | undefined;
  /** False where patterns hold regular expressions of their own: then only known pages were tried. */
  readonly isExact: boolean;
}

const languages = memoizeByText(2_000, (rules) => new PageLanguage(JSON.parse(rules) as PageRules));

function languageOf({ include, exclude }: PageRules): PageLanguage {
  return languages(JSON.stringify({ include, exclude }));
}

/** The pages of a site: those that are known, and all that its hosts could be asked for. */
export class PageUniverse {
  readonly #known: KnownPages;
  readonly #answers = new Map<string, PageAnswer>();

  /**
   * @param known - paths of pages that there are; they are shown rather than made-up ones
   * @param patterns - those that rules are likely to have, each once
   */
  constructor(known: readonly string[], patterns: readonly string[] = []) {
    const pages = ['/', ...known].map((path) => pageAddress(path));
    this.#known = new KnownPages(pages, patterns);
  }

  /**
   * A page that all of some rules hold and none of others.
   *
   * @param held - rules without groups
   * @param hosts - those that count; none means any
   */
  find(held: readonly PageRules[], notHeld: readonly PageRules[], hosts: readonly string[]): PageAnswer {
    const key = JSON.stringify([held.map(plain), notHeld.map(plain), hosts]);
    let answer = this.#answers.get(key);
    if (!answer) {
      if (this.#answers.size >= MAX_ANSWERS) this.#answers.clear();
      this.#answers.set(key, (answer = this.#work(held, notHeld, hosts)));
    }
    return answer;
  }

  #work(held: readonly PageRules[], notHeld: readonly PageRules[], hosts: readonly string[]): PageAnswer {
    const wanted = held.map(pageMatcher);
    const unwanted = notHeld.map(pageMatcher);
    const fits = (page: PageAddress): boolean =>
      wanted.every((matcher) => matcher.match(page).matches) &&
      !unwanted.some((matcher) => matcher.match(page).matches);
    const examples = [...held, ...notHeld].flatMap(({ include, exclude }) =>
      [...include, ...exclude].flatMap(examplesOf),
    );
    for (const host of hosts.length > 0 ? hosts : [undefined]) {
      const known = this.#known.first(held, notHeld, host);
      if (known) return { page: known, isExact: true };
      for (const page of [...examples, SOME_PAGE]) {
        const there = host === undefined ? page : { ...page, host };
        if (fits(there)) return { page: there, isExact: true };
      }
    }
    const conditions: Condition[] = [
      ...held.map((rules) => ({ language: languageOf(rules), isHeld: true })),
      ...notHeld.map((rules) => ({ language: languageOf(rules), isHeld: false })),
    ];
    const { found, isExact } = shortestPage(conditions, hosts);
    return { page: found === undefined ? undefined : fromText(found), isExact };
  }
}

/** An answer is a few words; a site has some thousand pairs of rules at most. */
const MAX_ANSWERS = 100_000;

const SOME_PAGE = pageAddress('/some-page');

function plain({ include, exclude }: PageRules): unknown {
  return [include, exclude];
}

function fromText(text: string): PageAddress {
  const space = text.indexOf(' ');
  return pageAddress(text.slice(space + 1), text.slice(0, space));
}

const examplesOf = memoizeByText(4_000, exampleAddresses);

/** Addresses that a pattern is likely to match, as people would write them. */
export function exampleAddresses(pattern: string): PageAddress[] {
  const slash = pattern.startsWith('//') ? pattern.indexOf('/', 2) : 0;
  const end = slash < 0 ? pattern.length : slash;
  const host = pattern.slice(2, end);
  const rest = pattern.slice(end);
  const fill = (text: string, star: string): string =>
    text
      .replace(/\{([^{}]*)\}[?*+]?/g, '$1')
      .replace(/:\w+(?:\([^)]*\))?[?*+]?/g, 'some-page')
      .replaceAll('*', star)
      .replace(/\\(.)/g, '$1');
  const path = (star: string): PageAddress => pageAddress(fill(rest, star) || '/', fill(host, star || 'www'));
  return [path(''), path('some-page')];
}
