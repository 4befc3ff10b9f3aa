import type { NamedPlacement } from '../insert/index.js';
import { statementTokens, type PlaceToken, type StatementToken } from './statement-words.js';

type Side = 'before' | 'after' | 'in';
type End = 'top' | 'bottom';

/** Which placement a place is, seen from a side of it; undefined where there is none of ours, or several. */
const PLACES: Readonly<
  Record<PlaceToken, (side: Side | undefined, end: End | undefined) => NamedPlacement | undefined>
> = {
  'head-closes': (side) => (side === 'after' ? 'body-start' : 'head-end'),
  'head-opens': (side) => (side === 'before' ? undefined : 'head-start'),
  'head-tag': (side, end) => (side === 'after' ? 'head-start' : inHead(side, end)),
  head: (side, end) => (side === 'after' ? undefined : inHead(side, end)),
  'body-closes': () => 'body-end',
  'body-opens': (side) => (side === 'before' ? 'head-end' : 'body-start'),
  'body-tag': (side, end) => (side === 'before' ? 'head-end' : side === 'after' ? 'body-start' : inBody(end)),
  'body-tag-in-words': (side, end) =>
    side === 'before' ? undefined : side === 'after' ? 'body-start' : inBody(end),
  body: (side, end) => (side === 'before' ? 'head-end' : side === 'after' ? undefined : inBody(end)),
  footer: () => 'body-end',
  'page-ends': () => 'body-end',
  'source-begins': (side) => (side === 'before' ? undefined : 'head-start'),
  page: (_, end) => (end === 'bottom' ? 'body-end' : undefined),
};

function inHead(side: Side | undefined, end: End | undefined): NamedPlacement | undefined {
  if (side === 'before') return undefined;
  return end === 'top' ? 'head-start' : 'head-end';
}

function inBody(end: End | undefined): NamedPlacement | undefined {
  return end === 'top' ? 'body-start' : end === 'bottom' ? 'body-end' : undefined;
}

/** Places whose top and bottom may be told after them: "in the head, as high as possible". */
const ROOMY: ReadonlySet<PlaceToken> = new Set(['head', 'head-tag', 'body', 'body-tag', 'body-tag-in-words']);

/**
 * The placement that a provider's sentence means; undefined where it says none, or leaves the choice. A small grammar:
 * a side (before, after, in) or an end (top, bottom) of a place (head, body, their tags, the footer), clause by clause.
 */
export function placementOfStatement(statement: string): NamedPlacement | undefined {
  const reader = new Reader();
  for (const token of statementTokens(statement)) if (!reader.take(token)) break;
  return reader.placement;
}

class Reader {
  readonly #meant: NamedPlacement[] = [];
  #side: Side | undefined;
  #end: End | undefined;
  #isAsFarAsPossible = false;
  #isDenied = false;
  #isBetween = false;
  #hasChoice = false;
  #isWhereItShows = false;
  /** A place was named without saying where in it. */
  #isOpen = false;
  /** The place that the sentence is at, and its side, for what follows it. */
  #last: { readonly place: PlaceToken; readonly side: Side | undefined; readonly at: number } | undefined;

  /** @returns whether to read on */
  take(token: StatementToken): boolean {
    switch (token.kind) {
      case 'side':
        this.#side = token.side;
        this.#isBetween = token.isBetween === true;
        return true;
      case 'end':
        this.#take(token.end);
        this.#isAsFarAsPossible ||= token.isAsFarAsPossible === true;
        return true;
      case 'place':
        this.#takePlace(token.place);
        return true;
      case 'edge':
        this.#takeEdge(token.edge);
        return true;
      case 'denial':
        this.#isDenied = true;
        return true;
      case 'but':
        this.#isDenied = false;
        return true;
      case 'choice':
        this.#hasChoice = true;
        return true;
      case 'where-it-shows':
        this.#isWhereItShows = true;
        return true;
      case 'comma':
        this.#side = undefined;
        return true;
      case 'stop':
        this.#side = undefined;
        this.#isDenied = false;
        return true;
      case 'fallback':
        // What is said for the case that the first is not possible is not what is wanted.
        return this.#meant.length === 0;
    }
  }

  #take(end: End): void {
    this.#end = end;
    const last = this.#last;
    if (!last || !ROOMY.has(last.place)) return;
    const meant = PLACES[last.place](last.side, end);
    if (meant !== undefined) this.#meant.splice(last.at, 1, meant);
  }

  /** The tag of the place that was named before: "in the head, right after the opening tag". */
  #takeEdge(edge: 'opens' | 'closes'): void {
    const last = this.#last;
    if (!last || !ROOMY.has(last.place)) return;
    const isHead = last.place.startsWith('head');
    const meant = PLACES[`${isHead ? 'head' : 'body'}-${edge}`](this.#side, undefined);
    this.#side = undefined;
    if (meant !== undefined) this.#meant.splice(last.at, 1, meant);
  }

  #takePlace(place: PlaceToken): void {
    const [side, end] = [this.#side, this.#end];
    this.#side = undefined;
    if (this.#isDenied) {
      this.#isDenied = false;
      return;
    }
    if (this.#isBetween && this.#last) {
      this.#isBetween = false;
      return;
    }
    const meant = PLACES[place](side, end);
    if (ROOMY.has(place) || meant !== undefined) this.#last = { place, side, at: this.#meant.length };
    if (meant === undefined) {
      this.#isOpen ||= ROOMY.has(place);
      return;
    }
    this.#end = undefined;
    this.#meant.push(meant);
  }

  get placement(): NamedPlacement | undefined {
    const [first] = this.#meant;
    if (first === undefined) {
      if (this.#isWhereItShows) return undefined;
      if (this.#end === 'bottom') return 'body-end';
      return this.#end === 'top' && this.#isAsFarAsPossible ? 'head-start' : undefined;
    }
    if (this.#hasChoice && (this.#isOpen || this.#meant.some((one) => one !== first))) return undefined;
    return first;
  }
}
