import type { Reach } from '../reach/index.js';
import type { PlacedPart, Snapshot } from '../snapshot/index.js';
import type { Box } from './paste/box.js';

/** What a reach asks, and of whom: each dimension of it but the pages, which every way knows. */
export type AskedDimension = Exclude<keyof Reach, 'pages'>;

/**
 * When it is decided whether a page load is in reach, in one dimension: for each page load, in the visitor's browser, or
 * once for all visitors when the page is made.
 */
export type Decided = 'per-load' | 'in-browser' | 'once';

/**
 * How a part comes into a page: with the page itself; by a script, in time, while the page is being read where it goes;
 * or by a script, later.
 */
export type Coming = 'with-page' | 'in-time' | 'late';

/** What a way is asked about a part with. */
export interface DeliveryContext {
  readonly snapshot: Snapshot;
  /** Of a site builder. */
  readonly boxes: readonly Box[];
  /** Paths of the site's known pages. */
  readonly pages: readonly string[];
}

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
  'views',
  'freshness',
  'without-script',
  'policy',
  'cost',
] as const;
export type Aspect = (typeof ASPECTS)[number];

/** What ways are called in the API; they never change. */
export const DELIVERY_KEYS = [
  'gateway',
  'line',
  'async-line',
  'paste',
  'fragments',
  'middleware',
  'folder',
] as const;
export type DeliveryKey = (typeof DELIVERY_KEYS)[number];

/** A way in which a host's pages get their parts. One more is one more file here and one line in the registry. */
export interface Delivery {
  readonly key: DeliveryKey;
  /** In the words that users read. */
  readonly name: string;
  /** What its owner has to be able to do. */
  readonly needs: string;
  readonly decides: Readonly<Record<AskedDimension, Decided>>;
  /** What it means that something is decided once; empty where nothing is. */
  readonly onceWords: string;
  /** It notices when a single-page application shows another view. */
  readonly seesViews: boolean;
  /** Its pages load the one line. */
  readonly isLine: boolean;
  /** Visitors get what is published at once, with nothing left for anybody to do. */
  readonly followsPublishing: boolean;
  /** How a part comes into its pages; undefined where it does not. */
  comes(placed: PlacedPart, context: DeliveryContext): Coming | undefined;
  readonly abilities: Readonly<Record<Aspect, Ability>>;
}
