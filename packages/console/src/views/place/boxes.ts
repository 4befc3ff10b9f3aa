import type { PagePictureEvent } from '@pragmatica/contract';

export type ElementBox = Extract<PagePictureEvent, { type: 'picture' }>['elements'][number];

interface Point {
  readonly x: number;
  readonly y: number;
}

/** The elements under a point, the smallest first; of those that are as large, the innermost. */
export function boxesAt(elements: readonly ElementBox[], { x, y }: Point): readonly ElementBox[] {
  return elements
    .filter(({ box }) => x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height)
    .sort((a, b) => areaOf(a) - areaOf(b) || b.element - a.element);
}

function areaOf({ box }: ElementBox): number {
  return box.width * box.height;
}
