import type { Reach } from '../reach/index.js';

/** What a reach asks, and of whom: each dimension of it but the pages, which every way knows. */
export type AskedDimension = Exclude<keyof Reach, 'pages'>;

/**
 * When it is decided whether a page load is in reach, in one dimension: for each page load, in the visitor's browser, or
 * once for all visitors when the page is made.
 */
export type Decided = 'per-load' | 'in-browser' | 'once';

/** How well a way does something: as if the parts stood in the page; but for what the words say; or not. */
export type Fit = 'fully' | 'partly' | 'not';

export interface Ability {
  readonly fit: Fit;
  readonly words: string;
}

/** What ways are compared by, in the order in which they are shown. */
export const ASPECTS = [
  'head',
  'body-start',
  'body-end',
  'anchor',
  'reach',
  'freshness',
  'without-script',
  'policy',
  'cost',
] as const;
export type Aspect = (typeof ASPECTS)[number];

/** A way in which a host's pages get their parts. One more is one more file here and one line in the registry. */
export interface Delivery {
  readonly key: string;
  /** In the words that users read. */
  readonly name: string;
  /** What its owner has to be able to do. */
  readonly needs: string;
  readonly decides: Readonly<Record<AskedDimension, Decided>>;
  /** What it means that something is decided once; empty where nothing is. */
  readonly onceWords: string;
  readonly abilities: Readonly<Record<Aspect, Ability>>;
}
