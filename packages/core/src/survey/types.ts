import type { Range } from '../facts/index.js';
import type { PagePolicies } from '../policy/index.js';

export const ITEM_KINDS = ['script', 'data', 'style', 'frame', 'pixel', 'element'] as const;
/** What kind of thing stands in a page. */
export type ItemKind = (typeof ITEM_KINDS)[number];

export const ITEM_STATES = [
  'active',
  'noscript',
  'comment',
  'conditional-comment',
  'template',
  'inert-type',
] as const;

/**
 * Whether a browser does anything with it. What stands in comments and templates does not run; what stands in
 * `noscript` is for browsers without scripts only.
 */
export type ItemState = (typeof ITEM_STATES)[number];

export const ITEM_PLACES = ['head', 'body-start', 'body', 'body-end'] as const;
/** Where in the page it stands: in the head, before the first and after the last thing that is shown, or between. */
export type ItemPlace = (typeof ITEM_PLACES)[number];

/** A script, style, frame, pixel or element for a script, as it stands in a page. */
export interface PageItem {
  readonly kind: ItemKind;
  readonly state: ItemState;
  readonly place: ItemPlace;
  /** In the page's text, UTF-16 code units. */
  readonly range: Range;
  /** As it stands in the page, tags included. */
  readonly code: string;
  /** For a script whose type lets nothing run: the code without its type, as what starts it will see it. */
  readonly asScript?: string;
  /** Digest of the code as it is written, without what differs from page to page. */
  readonly form: string;
  /** Digest of what it does: the same for other ways of writing it. */
  readonly key: string;
}

/** A part that a page should have, and where it stands in the page's text. */
export interface FoundPart {
  readonly part: string;
  readonly at: readonly Range[];
  /** Something in the page brings it, so that it need not stand there. */
  readonly isBrought?: boolean;
}

/** An item of a page with the part of ours that it is a piece of, if it is. */
export interface AttributedItem extends PageItem {
  readonly part: string | undefined;
}

/** Where a page's encoding is declared. */
export interface DeclaredCharset {
  /** Name in the Encoding Standard; the one that browsers fall back on where nothing declares one. */
  readonly name: string;
  readonly from: 'mark' | 'header' | 'meta' | 'not-declared';
}

export const PAGE_TYPES = [
  'front',
  'article',
  'list',
  'form',
  'shop',
  'confirmation',
  'error',
  'other',
] as const;
/** What a page looks like: a guess. */
export type PageType = (typeof PAGE_TYPES)[number];

/**
 * What is unusual about a page, and matters to whoever puts code into it. One more is one more line here, its
 * words and its rule in `traits.ts`.
 */
export const PAGE_TRAITS = [
  'policy',
  'nonce-policy',
  'legacy-encoding',
  'no-encoding',
  'late-encoding',
  'quirks',
  'no-language',
  'canonical-elsewhere',
] as const;
export type PageTrait = (typeof PAGE_TRAITS)[number];

/** What was read of one page. */
export interface PageReading extends PagePolicies {
  readonly title: string;
  readonly language: string;
  readonly charset: DeclaredCharset;
  readonly type: PageType;
  /** The page without its content and without our parts, see `pageSkeleton`. */
  readonly skeleton: string;
  /** Of the site itself, `/path?search`; of elsewhere, a whole address; undefined where none is stated. */
  readonly canonical: string | undefined;
  /** Where the page sends visitors on, by `Refresh` or `meta refresh`. */
  readonly refresh: string | undefined;
  /** Whole addresses, each once, in document order. */
  readonly links: readonly string[];
  /** In document order. */
  readonly items: readonly AttributedItem[];
  /** The parts that were asked for. */
  readonly found: readonly FoundPart[];
  /** What is unusual about it. */
  readonly traits: readonly PageTrait[];
}

/** What came with a page. */
export interface PageSource {
  /** Whole address of the page, after redirects. */
  readonly url: string;
  readonly status: number;
  readonly bytes: Uint8Array;
  /** Header names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
}
