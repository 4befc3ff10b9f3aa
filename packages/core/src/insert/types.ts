import type { InsertNote, LeftOutReason } from './reasons.js';

/** Where a part goes: one of four named places, or an element with a given id. */
export type Placement = NamedPlacement | AnchorPlacement;

export type NamedPlacement = 'head-start' | 'head-end' | 'body-start' | 'body-end';

/** `inside`: right after the element's start tag. `before`: right before the element. */
export interface AnchorPlacement {
  readonly anchor: string;
  readonly side: 'inside' | 'before';
}

export interface InsertPart {
  /** Names the part in the result; not written into the page. */
  readonly key: string;
  readonly placement: Placement;
  readonly code: string;
}

export type InsertOutcome =
  | {
      readonly key: string;
      readonly inserted: true;
      /** Byte offset in the page as it came, from 0. */ readonly offset: number;
      /** Present where it stands elsewhere than usual, with the same in plain words. */
      readonly note?: InsertNote;
      readonly message?: string;
    }
  | {
      readonly key: string;
      readonly inserted: false;
      readonly reason: LeftOutReason;
      /** The reason in plain words. */ readonly message: string;
    };

export interface InsertOptions {
  /** The encoding the transport declared (`Content-Type: …; charset=…`), as a label of the Encoding Standard. */
  readonly encoding?: string | undefined;
  /** Read pages with JavaScript even where WebAssembly could: slower, and the same. */
  readonly plain?: boolean | undefined;
}

export interface InsertResult {
  /** The page with the parts in it, in the page's own encoding. */
  readonly page: Uint8Array;
  /** One outcome for each part, in the order in which the parts were given. */
  readonly outcomes: readonly InsertOutcome[];
}

export const NAMED_PLACEMENTS: readonly NamedPlacement[] = [
  'head-start',
  'head-end',
  'body-start',
  'body-end',
];

/** Tells an anchor from a named placement. */
export function isAnchor(placement: Placement): placement is AnchorPlacement {
  return typeof placement !== 'string';
}

/** One string per distinct placement; equal placements give equal strings. Used as a map key and in order lists. */
export function placementKey(placement: Placement): string {
  return isAnchor(placement) ? `${placement.side}:#${placement.anchor}` : placement;
}

/** A placement in the words that users read, e.g. "at the end of the head". */
export function placementWords(placement: Placement): string {
  if (isAnchor(placement)) {
    return placement.side === 'inside'
      ? `inside the element #${placement.anchor}`
      : `before the element #${placement.anchor}`;
  }
  return NAMED_WORDS[placement];
}

const NAMED_WORDS: Record<NamedPlacement, string> = {
  'head-start': 'at the start of the head',
  'head-end': 'at the end of the head',
  'body-start': 'at the start of the body',
  'body-end': 'at the end of the body',
};
