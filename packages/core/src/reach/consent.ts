import { query } from 'json-p3';
import { memoizeByText } from '../memoize/by-text.js';
import { REACH_TEXTS } from '../texts/reach.js';

/** A purpose that visitors may agree to. */
export interface ConsentCategory {
  readonly key: string;
  readonly name: string;
  /** What it is called in the cookie; its key when left out. */
  readonly value?: string;
}

/** How a site's consent banner keeps what a visitor agreed to. */
export interface ConsentRules {
  readonly categories: readonly ConsentCategory[];
  readonly cookie: string;
  readonly format:
    /** The granted categories with signs between them: commas, semicolons, bars, plus signs, colons or spaces. */
    | { readonly kind: 'list' }
    /**
     * JSON. The path (JSONPath, RFC 9535) leads to a list of the granted categories, or to an object that says true,
     * "granted" or "yes" of each.
     */
    | { readonly kind: 'json'; readonly path: string };
}

const SEPARATORS = /[\s,;|+:]+/;

/**
 * Keys of the categories that a request's cookies grant. A cookie that cannot be read grants nothing.
 *
 * @param cookies - the `Cookie` header (RFC 6265, 4.2)
 */
export function grantedConsent(rules: ConsentRules | undefined, cookies: string | undefined): string[] {
  if (!rules || cookies === undefined) return [];
  const value = cookieValue(cookies, rules.cookie);
  if (value === undefined) return [];
  const granted = grantedNames(rules, value);
  return rules.categories
    .filter((category) => granted.has(category.value ?? category.key))
    .map(({ key }) => key);
}

/** The first cookie of the name counts, as it does for most servers. */
function cookieValue(cookies: string, name: string): string | undefined {
  for (const pair of cookies.split(';')) {
    const at = pair.indexOf('=');
    if (at > 0 && pair.slice(0, at).trim() === name) return decoded(pair.slice(at + 1).trim());
  }
  return undefined;
}

function decoded(value: string): string {
  const plain = value.startsWith('"') && value.endsWith('"') && value.length > 1 ? value.slice(1, -1) : value;
  try {
    return decodeURIComponent(plain);
  } catch {
    return plain;
  }
}

function grantedNames({ format }: ConsentRules, value: string): Set<string> {
  if (format.kind === 'list') return new Set(value.split(SEPARATORS));
  try {
    if (costlyPath(format.path) !== undefined) return new Set();
    const nodes = query(format.path, JSON.parse(value) as never).values();
    return new Set(nodes.flatMap(namesIn));
  } catch {
    return new Set();
  }
}

const YES: ReadonlySet<unknown> = new Set([true, 1, 'true', 'yes', 'granted', '1']);

function namesIn(node: unknown): string[] {
  if (typeof node === 'string') return node.split(SEPARATORS);
  if (Array.isArray(node)) return node.filter((entry) => typeof entry === 'string');
  if (typeof node !== 'object' || node === null) return [];
  return Object.entries(node).flatMap(([name, said]) => (YES.has(said) ? [name] : []));
}

type PathProblem = 'noJsonpathWrite' | 'pathHereMay' | 'pathLooksThrough';

/** What is wrong with a JSONPath, in words; null where nothing is. */
export function consentPathProblem(path: string): string | null {
  const problem = pathProblem(path);
  return problem === undefined ? null : REACH_TEXTS[problem];
}

const pathProblem = memoizeByText(200, (path): PathProblem | undefined => {
  try {
    query(path, {});
    return costlyPath(path);
  } catch {
    return 'noJsonpathWrite';
  }
});

/**
 * Why a path would take more than a few passes over a cookie, which is a visitor's to write; undefined for one that does
 * not. Filters may call no functions (among them are regular expressions), and the descendant segment may be there once.
 */
function costlyPath(path: string): PathProblem | undefined {
  const bare = path.replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'/g, '""');
  const count = (sign: string): number => bare.split(sign).length - 1;
  if (bare.includes('(')) return 'pathHereMay';
  if (count('..') > 1 || count('?') > 1 || (count('..') > 0 && count('?') > 0)) return 'pathLooksThrough';
  return undefined;
}

/** "adverts" as the site calls it: "Adverts". */
export function consentNames(keys: readonly string[], rules: ConsentRules | undefined): string[] {
  return keys.map((key) => rules?.categories.find((category) => category.key === key)?.name ?? key);
}

/**
 * The cookie in which a banner would keep what was agreed to; undefined where it cannot be told from the rules how that would be
 * written. What is written reads back as just these.
 *
 * @param keys - of the categories
 */
export function consentCookie(
  rules: ConsentRules | undefined,
  keys: readonly string[],
): { readonly name: string; readonly value: string } | undefined {
  if (!rules) return undefined;
  const names = rules.categories
    .filter(({ key }) => keys.includes(key))
    .map(({ key, value }) => value ?? key);
  const value = encodeURIComponent(
    rules.format.kind === 'list' ? names.join(',') || '-' : JSON.stringify(nested(rules.format.path, names)),
  );
  const read = grantedConsent(rules, `${rules.cookie}=${value}`);
  return read.length === names.length ? { name: rules.cookie, value } : undefined;
}

/** An object in which a path of plain names leads to a list. */
function nested(path: string, names: readonly string[]): unknown {
  const steps = [...path.matchAll(/\.([\p{L}_][\p{L}\p{N}_]*)|\['([^'\\]+)'\]|\["([^"\\]+)"\]/gu)];
  const keys = steps.map(([, dotted, single, double]) => dotted ?? single ?? double ?? '');
  return keys.reduceRight<unknown>((inner, key) => ({ [key]: inner }), names);
}
