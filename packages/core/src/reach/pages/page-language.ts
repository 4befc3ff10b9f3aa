import { PageAutomaton } from './automaton.js';
import type { PagePattern } from './page-pattern.js';
import { readOrNothing } from './page-matcher.js';
import type { PageRules } from './page-rules.js';
import { setsOf } from './regexp.js';

/** A set of page texts that page rules describe: what is included and not excluded. */
export class PageLanguage {
  readonly #automaton: PageAutomaton;
  readonly #isAllIncluded: boolean;
  readonly #firstExcluded: number;
  /** Characters that patterns name: all others are alike to them. */
  readonly characters: ReadonlySet<number>;

  constructor({ include, exclude }: PageRules) {
    const patterns = [...include, ...exclude].map(readOrNothing);
    this.#automaton = new PageAutomaton(patterns);
    this.#isAllIncluded = include.length === 0;
    this.#firstExcluded = include.length;
    this.characters = new Set(patterns.flatMap((pattern) => (pattern ? [...literals(pattern)] : [])));
  }

  readonly start = 0;

  step(state: number, character: number): number {
    return this.#automaton.step(state, character);
  }

  holds(state: number): boolean {
    const accepts = this.#automaton.accepts(state);
    const isExcluded = accepts.length > 0 && accepts.at(-1)! >= this.#firstExcluded;
    return !isExcluded && (this.#isAllIncluded || accepts.length > 0);
  }
}

function* literals({ host, path, search }: PagePattern): Generator<number> {
  for (const part of [...(host ?? []), ...path, ...(search ?? [])]) {
    const text = part.kind === 'text' ? part.value : part.prefix + part.suffix;
    for (let i = 0; i < text.length; i++) yield text.charCodeAt(i);
    if (part.kind === 'regexp') for (const set of setsOf(part.regexp)) yield* set;
  }
}

/** What is asked of a page: to be held by rules, or not to be. */
export interface Condition {
  readonly language: PageLanguage;
  readonly isHeld: boolean;
}

export type PageSearch =
  | { readonly found: string; readonly isExact: true }
  /** There is none, whatever the address. */
  | { readonly found: undefined; readonly isExact: true }
  /** Too much to try. */
  | { readonly found: undefined; readonly isExact: false };

/** So many combinations of states are walked; real rules need a few hundred. */
const MAX_STATES = 50_000;

/**
 * The shortest address of all that a browser could ask for that fulfils the conditions: a breadth-first walk through
 * the product of the automata and that of possible addresses.
 *
 * @param hosts - those there are; none means any
 */
export function shortestPage(conditions: readonly Condition[], hosts: readonly string[]): PageSearch {
  const alphabet = alphabetOf(conditions, hosts);
  const prefixes = hosts.length > 0 ? hosts : [undefined];
  const seen = new Set<string>();
  let level: Walk[] = [];
  const visit = (walk: Walk, into: Walk[]): void => {
    const key = `${walk.address} ${walk.states.join()}`;
    if (seen.has(key)) return;
    seen.add(key);
    into.push(walk);
  };
  for (const host of prefixes) {
    let walk: Walk = { states: conditions.map(({ language }) => language.start), address: 'host', text: '' };
    if (host !== undefined) walk = follow(conditions, walk, host, 'host');
    visit(host === undefined ? walk : { ...walk, address: 'host-end' }, level);
  }
  while (level.length > 0) {
    const next: Walk[] = [];
    for (const walk of level) {
      const isFound =
        walk.address === 'search' &&
        conditions.every(({ language, isHeld }, i) => language.holds(walk.states[i]!) === isHeld);
      if (isFound) return { found: walk.text, isExact: true };
      for (const character of alphabet) {
        const address = nextAddress(walk.address, character);
        if (address !== undefined)
          visit(follow(conditions, walk, String.fromCharCode(character), address), next);
      }
      if (seen.size > MAX_STATES) return { found: undefined, isExact: false };
    }
    level = next;
  }
  return { found: undefined, isExact: true };
}

interface Walk {
  readonly states: readonly number[];
  readonly address: AddressState;
  readonly text: string;
}

function follow(
  conditions: readonly Condition[],
  { states, text }: Walk,
  more: string,
  address: AddressState,
): Walk {
  const reached = states.map((state, i) => {
    let at = state;
    for (let j = 0; j < more.length; j++) at = conditions[i]!.language.step(at, more.charCodeAt(j));
    return at;
  });
  return { states: reached, address, text: text + more };
}

/**
 * Where a possible address stands: in its host, in its search, or within a segment of its path, of which so much is
 * known as can still become one of the dot segments that the URL Standard takes out (4.1, "single-dot" and
 * "double-dot URL path segment").
 */
type AddressState = 'host' | 'host-end' | 'path' | 'search' | `/${string}`;

const DOTS = ['.', '%2e', '..', '.%2e', '%2e.', '%2e%2e'];
const SPACE = ' '.charCodeAt(0);
const SLASH = '/'.charCodeAt(0);
const QUESTION = '?'.charCodeAt(0);
const IN_HOST = /[a-z0-9\-._]/;
/** What the URL Standard leaves as it is (1.3, path and special-query percent-encode sets). */
const IN_PATH = /[!$-;=@-[\]^_a-z|~]/;
const IN_SEARCH = /[!$-&(-;=?-[\]^_`a-z{|}~\\]/;

function nextAddress(state: AddressState, character: number): AddressState | undefined {
  const sign = String.fromCharCode(character);
  if (state === 'search') return IN_SEARCH.test(sign) ? 'search' : undefined;
  if (state === 'path') return character === SLASH ? '/' : undefined;
  if (character === SPACE) return state === 'host' || state === 'host-end' ? 'path' : undefined;
  // Which hosts there are, and that one is there at all, is the site's affair.
  if (state === 'host') return IN_HOST.test(sign) ? 'host' : undefined;
  if (state === 'host-end') return undefined;
  if (character === SLASH || character === QUESTION) {
    if (DOTS.includes(state.slice(1))) return undefined;
    return character === SLASH ? '/' : 'search';
  }
  if (!IN_PATH.test(sign)) return undefined;
  const segment = state === '/*' ? '*' : (state.slice(1) + sign).toLowerCase();
  return DOTS.some((dots) => dots.startsWith(segment)) ? `/${segment}` : '/*';
}

/** For what patterns do not name, the first of each kind of sign that they leave is tried. */
const STAND_INS = ['xyzabcdefghijklmnopqrstuvw0123456789', 'ABCDEFGHIJKLMNOPQRSTUVWXYZ~!$&()+,;=@', '`{}|^'];

/** Every character that matters, the readable ones first. */
function alphabetOf(conditions: readonly Condition[], hosts: readonly string[]): number[] {
  const named = new Set<number>([
    SPACE,
    SLASH,
    QUESTION,
    ...['.', '%', '2', 'e', 'E'].map((sign) => sign.charCodeAt(0)),
  ]);
  for (const { language } of conditions) for (const character of language.characters) named.add(character);
  for (const host of hosts) for (let i = 0; i < host.length; i++) named.add(host.charCodeAt(i));
  const standIns = STAND_INS.flatMap((signs) => {
    const sign = Array.from(signs).find((candidate) => !named.has(candidate.charCodeAt(0)));
    return sign === undefined ? [] : [sign.charCodeAt(0)];
  });
  const rest = [...named].filter((character) => !standIns.includes(character));
  return [...standIns, ...rest.sort((a, b) => readability(a) - readability(b) || a - b)];
}

function readability(character: number): number {
  const sign = String.fromCharCode(character);
  if (character === QUESTION || character === SLASH || character === SPACE) return 0;
  return /[a-z0-9]/.test(sign) ? 1 : /[\w\-.]/.test(sign) ? 2 : 3;
}
