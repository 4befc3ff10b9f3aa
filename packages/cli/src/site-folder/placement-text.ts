import {
  ANCHOR_SIDES,
  NAMED_PLACEMENTS,
  anchorName,
  isAnchor,
  readAnchor,
  type Placement,
} from '@pragmatica/core';

/** A placement as it is written in a file: `head-end`, `inside #booking`, `after main > p`. */
export function placementText(placement: Placement): string {
  return isAnchor(placement) ? `${placement.side} ${anchorName(placement)}` : placement;
}

/** @returns undefined for what is none */
export function readPlacement(text: string): Placement | undefined {
  const named = NAMED_PLACEMENTS.find((one) => one === text);
  if (named) return named;
  const side = ANCHOR_SIDES.find((one) => text.startsWith(`${one} `));
  if (side === undefined) return undefined;
  try {
    return readAnchor(text.slice(side.length + 1), side);
  } catch {
    return undefined;
  }
}
