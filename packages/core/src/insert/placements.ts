import { cssIdentifier } from './selector/css-text.js';

interface PlacementMeta {
  /** In the words that users read, behind "stands" or "moves to". */
  readonly words: string;
  /** The element that it lies in. */
  readonly region: 'head' | 'body';
  /** What providers say when they mean it. */
  readonly providersSay: string;
}

/**
 * The named placements, in page order. One more is one more entry here, and its events in the page machine
 * (`machine/state.ts`, `scan-event.ts`): contract, commands and console take it from here.
 */
export const PLACEMENTS = {
  'head-start': {
    words: 'at the start of the head',
    region: 'head',
    providersSay: 'as high in the head as possible',
  },
  'head-end': {
    words: 'at the end of the head',
    region: 'head',
    providersSay: 'just before the head closes',
  },
  'body-start': {
    words: 'at the start of the body',
    region: 'body',
    providersSay: 'right after the body opens',
  },
  'body-end': {
    words: 'at the end of the body',
    region: 'body',
    providersSay: 'just above the closing body tag',
  },
} as const satisfies Readonly<Record<string, PlacementMeta>>;

export type NamedPlacement = keyof typeof PLACEMENTS;

export const NAMED_PLACEMENTS = Object.keys(PLACEMENTS) as [NamedPlacement, ...NamedPlacement[]];

/** Where parts can stand at an element, in page order, in the words that users read before its name. */
export const ANCHOR_SIDES = {
  before: 'before',
  inside: 'inside',
  'inside-end': 'at the end of',
  after: 'after',
} as const;

export type AnchorSide = keyof typeof ANCHOR_SIDES;

export const ANCHOR_SIDE_NAMES = Object.keys(ANCHOR_SIDES) as [AnchorSide, ...AnchorSide[]];

/** At the element with an id, or at the first element of the page that a selector fits (`parseSelector`). */
export type AnchorPlacement =
  | { readonly anchor: string; readonly side: AnchorSide }
  | { readonly selector: string; readonly side: AnchorSide };

/** Where a part goes: one of the named places, or at an element. */
export type Placement = NamedPlacement | AnchorPlacement;

/** Tells an anchor from a named placement. */
export function isAnchor(placement: Placement): placement is AnchorPlacement {
  return typeof placement !== 'string';
}

export function isInHead(placement: Placement): boolean {
  return !isAnchor(placement) && PLACEMENTS[placement].region === 'head';
}

/** One string per distinct placement; equal placements give equal strings. Used as a map key and in order lists. */
export function placementKey(placement: Placement): string {
  return isAnchor(placement) ? `${placement.side}:${anchorName(placement)}` : placement;
}

/** A placement in the words that users read, e.g. "at the end of the head". */
export function placementWords(placement: Placement): string {
  if (!isAnchor(placement)) return PLACEMENTS[placement].words;
  return `${ANCHOR_SIDES[placement.side]} the element ${anchorName(placement)}`;
}

/** The element that a placement names, as a selector: `#id`, or its own. */
export function anchorName(placement: AnchorPlacement): string {
  if ('selector' in placement) return placement.selector;
  return `#${cssIdentifier(placement.anchor)}`;
}
