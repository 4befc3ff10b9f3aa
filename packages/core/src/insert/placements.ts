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

/** `inside`: right after the element's start tag. `before`: right before the element. */
export interface AnchorPlacement {
  readonly anchor: string;
  readonly side: 'inside' | 'before';
}

/** Where a part goes: one of the named places, or an element with a given id. */
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
  return isAnchor(placement) ? `${placement.side}:#${placement.anchor}` : placement;
}

/** A placement in the words that users read, e.g. "at the end of the head". */
export function placementWords(placement: Placement): string {
  if (!isAnchor(placement)) return PLACEMENTS[placement].words;
  const { side, anchor } = placement;
  return side === 'inside' ? `inside the element #${anchor}` : `before the element #${anchor}`;
}
