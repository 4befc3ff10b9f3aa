import { tokTypes, tokenizer, type Token } from 'acorn';
import { isCacheBuster } from '../facts/index.js';
import type { Range } from '../facts/index.js';

/** What is known of the page that a code stands in: texts that differ from page to page. */
export interface PageWords {
  /** The page's path, its last segment, its title and its addresses. */
  readonly own: ReadonlySet<string>;
  /** Values that surely name an account at a provider: these tell two things apart. */
  readonly accounts: ReadonlySet<string>;
}

/** Something to write in place of a range. */
export interface Blank extends Range {
  readonly by: string;
}

/** Names of values that are another one on every page, or at every visit. */
const OWN_LABEL =
  /^(?:nonce|csrf\w*|xsrf\w*|(?:request|trace|visit|session|render|generated|page|post|article|product|item|entry|node|object|content)_?(?:id|token|key|at|time|title|url|path|name|type|slug)?|time(?:stamp)?|date\w*|generated|rand(?:om)?|title|path(?:name)?|permalink|slug|canonical|url|referrer)$/i;

const UUID = /^[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}$/i;
const TIME = /^\d{4}-\d\d-\d\d(?:[T ]\d\d:\d\d|$)|^1[5-9]\d{8}(?:\d{3})?$/;
const RANDOM = /^[\w+/=-]{16,}$/;

/** A value that nobody writes by hand twice: a random one, or a time. */
export function isVolatile(value: string): boolean {
  if (UUID.test(value) || TIME.test(value)) return true;
  return RANDOM.test(value) && /\d/.test(value) && /[a-z]/i.test(value);
}

/** What differs from page to page in a script, each with what is written instead. A script that is none is left alone. */
export function scriptBlanks(script: string, { own, accounts }: PageWords): Blank[] {
  const blanks: Blank[] = [];
  let before: Token | undefined;
  let label = '';
  try {
    for (const token of tokenizer(script, { ecmaVersion: 'latest' })) {
      const isValue = before?.type === tokTypes.colon || before?.type === tokTypes.eq;
      const value = String((token as Token & { readonly value: unknown }).value);
      if (token.type === tokTypes.num && !accounts.has(value)) blanks.push({ ...rangeOf(token), by: '0' });
      else if (token.type === tokTypes.num && isValue && OWN_LABEL.test(label))
        blanks.push({ ...rangeOf(token), by: '0' });
      else if (token.type === tokTypes.string) {
        const isOwn = own.has(value) || (isValue && OWN_LABEL.test(label));
        if (isOwn || (isVolatile(value) && !accounts.has(value)))
          blanks.push({ ...rangeOf(token), by: '"…"' });
      }
      if (token.type === tokTypes.name || token.type === tokTypes.string) label = value;
      before = token;
    }
  } catch {
    // From here on it is no script: what was found holds.
  }
  return blanks;
}

function rangeOf({ start, end }: Token): Range {
  return { start, end };
}

/** The value of an attribute without what differs from page to page; undefined where the attribute goes altogether. */
export function stableAttribute(
  name: string,
  value: string,
  { own, accounts }: PageWords,
): string | undefined {
  if (name === 'nonce') return undefined;
  if (name === 'src' || name === 'href' || name === 'data') return withoutCacheBusters(value);
  const isOwn = own.has(value) && value.length > 1;
  return isOwn || (isVolatile(value) && !accounts.has(value)) ? '…' : value;
}

function withoutCacheBusters(address: string): string {
  const at = address.indexOf('?');
  if (at < 0) return address;
  const [query, fragment = ''] = address.slice(at + 1).split(/(#[^]*)/);
  const kept = query!
    .split('&')
    .filter((pair) => !isCacheBuster(pair.split('=', 1)[0]!.replace(/^amp;/, '')));
  return `${address.slice(0, at)}${kept.length > 0 ? `?${kept.join('&')}` : ''}${fragment}`;
}

/** A text with blanks, which are in order and apart from each other. */
export function withBlanks(text: string, blanks: readonly Blank[]): string {
  if (blanks.length === 0) return text;
  let from = 0;
  const pieces: string[] = [];
  for (const { start, end, by } of blanks) {
    pieces.push(text.slice(from, start), by);
    from = end;
  }
  pieces.push(text.slice(from));
  return pieces.join('');
}
