import { URLPattern } from 'urlpattern-polyfill';

/** On which pages a snippet runs: URLPattern pathname patterns. No include pattern means every page. */
export interface PageRules {
  readonly include: readonly string[];
  readonly exclude: readonly string[];
}

export const ALL_PAGES: PageRules = { include: [], exclude: [] };

/** Why a page is or is not in reach; `pattern` is the one that decided, if one did. */
export type PageMatch =
  | { readonly matches: true; readonly pattern?: string }
  | { readonly matches: false; readonly because: 'not-included' | 'excluded'; readonly pattern?: string };

/** Checks a pathname pattern (URLPattern Standard); returns what is wrong with it in words, or undefined. */
export function pagePatternProblem(pattern: string): string | undefined {
  if (!pattern.startsWith('/')) return `A page pattern starts with a slash, like "/${pattern}".`;
  if (/[?#]/.test(pattern.replace(/\)\?|\}\?|\*\?|:\w+\?/g, ''))) {
    return 'A page pattern looks at the path only: leave out everything from "?" or "#" on.';
  }
  try {
    new URLPattern({ pathname: pattern });
    return undefined;
  } catch {
    return 'This is not a valid pattern. Use "*" for anything, ":name" for one path segment; brackets must close.';
  }
}

/** Page rules made ready for many questions. Invalid patterns match nothing; they are refused where they are entered. */
export class PageMatcher {
  readonly #include: readonly Compiled[];
  readonly #exclude: readonly Compiled[];

  constructor(rules: PageRules) {
    this.#include = rules.include.map(compile);
    this.#exclude = rules.exclude.map(compile);
  }

  /** @param path - a URL path, with or without query; percent-encoding as in the URL Standard */
  match(path: string): PageMatch {
    const pathname = toPathname(path);
    const excluded = this.#exclude.find((pattern) => pattern.test(pathname));
    if (excluded) return { matches: false, because: 'excluded', pattern: excluded.source };
    if (this.#include.length === 0) return { matches: true };
    const included = this.#include.find((pattern) => pattern.test(pathname));
    return included
      ? { matches: true, pattern: included.source }
      : { matches: false, because: 'not-included' };
  }
}

/** The path as the URL Standard writes it: dots resolved, odd characters percent-encoded, no query. */
export function toPathname(path: string): string {
  try {
    return new URL(path.startsWith('/') ? `http://page.invalid${path}` : path, 'http://page.invalid')
      .pathname;
  } catch {
    return '/';
  }
}

/** Page rules in words: "on all pages", "on /fares and /fares/*, but not on /fares/old". */
export function pageRulesWords(rules: PageRules): string {
  const included = rules.include.length === 0 ? 'on all pages' : `on ${listWords(rules.include)}`;
  return rules.exclude.length === 0 ? included : `${included}, but not on ${listWords(rules.exclude)}`;
}

/** "a", "a and b", "a, b and c". */
export function listWords(items: readonly string[]): string {
  if (items.length < 2) return items.join('');
  return `${items.slice(0, -1).join(', ')} and ${items.at(-1)!}`;
}

interface Compiled {
  readonly source: string;
  test(pathname: string): boolean;
}

/**
 * The package takes a path that begins with two slashes for a host when it puts it into canonical form. The shortcuts
 * are right there; other patterns see such a path without its first segment.
 */
function compile(source: string): Compiled {
  // Most patterns are plain paths or end in one `*`; both need no regular expression.
  if (/^\/[\w\-./]*$/.test(source)) return { source, test: (pathname) => pathname === source };
  if (/^\/(?:[\w\-./]*\/)?\*$/.test(source)) {
    const prefix = source.slice(0, -1);
    return { source, test: (pathname) => pathname.startsWith(prefix) };
  }
  try {
    const pattern = new URLPattern({ pathname: source });
    return { source, test: (pathname) => pattern.test({ pathname }) };
  } catch {
    return { source, test: () => false };
  }
}
