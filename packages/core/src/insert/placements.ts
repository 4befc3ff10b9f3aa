import { INSERT_TEXTS } from '../texts/insert.js';
import { say } from '../texts/say.js';
import { cssIdentifier } from './selector/css-text.js';

interface PlacementMeta {
  /** In the words that users read, behind "stands" or "moves to". */
  readonly words: string;
  /** The element that it lies in. */
  readonly region: 'head' | 'body';
  /** Its name by itself: on a list, over a slot. */
  readonly title: string;
  /** What providers say when they mean it. */
  readonly providersSay: string;
}

/**
 * The named placements, in page order. One more is one more entry here, and its events in the page machine
 * (`machine/state.ts`, `scan-event.ts`): contract, commands and console take it from here.
 */
export const PLACEMENTS = {
  'head-start': {
    get words() {
      return INSERT_TEXTS.places['head-start'].words;
    },
    get title() {
      return INSERT_TEXTS.places['head-start'].title;
    },
    region: 'head',
    get providersSay() {
      return INSERT_TEXTS.places['head-start'].providersSay;
    },
  },
  'head-end': {
    get words() {
      return INSERT_TEXTS.places['head-end'].words;
    },
    get title() {
      return INSERT_TEXTS.places['head-end'].title;
    },
    region: 'head',
    get providersSay() {
      return INSERT_TEXTS.places['head-end'].providersSay;
    },
  },
  'body-start': {
    get words() {
      return INSERT_TEXTS.places['body-start'].words;
    },
    get title() {
      return INSERT_TEXTS.places['body-start'].title;
    },
    region: 'body',
    get providersSay() {
      return INSERT_TEXTS.places['body-start'].providersSay;
    },
  },
  'body-end': {
    get words() {
      return INSERT_TEXTS.places['body-end'].words;
    },
    get title() {
      return INSERT_TEXTS.places['body-end'].title;
    },
    region: 'body',
    get providersSay() {
      return INSERT_TEXTS.places['body-end'].providersSay;
    },
  },
} as const satisfies Readonly<Record<string, PlacementMeta>>;

export type NamedPlacement = keyof typeof PLACEMENTS;

export const NAMED_PLACEMENTS = Object.keys(PLACEMENTS) as [NamedPlacement, ...NamedPlacement[]];

/** Where parts can stand at an element, in page order. */
export const ANCHOR_SIDES = ['before', 'inside', 'inside-end', 'after'] as const;

export type AnchorSide = (typeof ANCHOR_SIDES)[number];

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
  return say(INSERT_TEXTS.sides[placement.side], { element: anchorName(placement) });
}

/** The same as a name: "End of the head". */
export function placementTitle(placement: Placement): string {
  return isAnchor(placement) ? placementWords(placement) : PLACEMENTS[placement].title;
}

/** The element that a placement names, as a selector: `#id`, or its own. */
export function anchorName(placement: AnchorPlacement): string {
  if ('selector' in placement) return placement.selector;
  return `#${cssIdentifier(placement.anchor)}`;
}
