import { NAMED_PLACEMENTS, isAnchor, type Placement } from '@pragmatica/core';

/** A placement as it is written in a file: `head-end`, `inside #booking`. */
export function placementText(placement: Placement): string {
  return isAnchor(placement) ? `${placement.side} #${placement.anchor}` : placement;
}

/** @returns undefined for what is none */
export function readPlacement(text: string): Placement | undefined {
  const named = NAMED_PLACEMENTS.find((one) => one === text);
  if (named) return named;
  const [, side, anchor] = /^(inside|before) #(.+)$/s.exec(text) ?? [];
  return anchor === undefined ? undefined : { side: side as 'inside' | 'before', anchor };
}
