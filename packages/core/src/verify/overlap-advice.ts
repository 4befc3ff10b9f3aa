import { say } from '../texts/say.js';
import { OVERLAP_TEXTS as T } from '../texts/overlap.js';
import type { Rectangle } from '../visit/index.js';
import { meets } from './rectangles.js';

/** Two things that meet, and what else lies over the page. */
export interface Meeting {
  readonly upper: { readonly name: string; readonly box: Rectangle; readonly isBanner: boolean };
  readonly lower: { readonly name: string; readonly box: Rectangle; readonly isBanner: boolean };
  /** Boxes of everything that lies over the page. */
  readonly boxes: readonly Rectangle[];
  readonly window: { readonly width: number; readonly height: number };
}

const MARGIN = 20;
/** Windows that are narrower have no second corner for anything. */
const NARROW = 600;

/** How two things would not meet: one waits for the consent banner, takes a free corner, or stays away from phones. */
export function overlapAdvice({ upper, lower, boxes, window }: Meeting): string {
  if (upper.isBanner !== lower.isBanner) {
    const [banner, other] = upper.isBanner ? [upper, lower] : [lower, upper];
    return say(T.waitForBanner, { banner: banner.name, other: other.name });
  }
  const [mover] = [upper, lower].sort((a, b) => areaOf(a.box) - areaOf(b.box));
  const { name, box } = mover!;
  const corner = cornersOf(box, window).find(([, place]) => !boxes.some((one) => meets(one, place)));
  if (corner) return say(T.otherCorner, { name, corner: T[corner[0]] });
  return say(window.width < NARROW ? T.notOnPhones : T.oneAtATime, { name });
}

type Corner = 'bottomRight' | 'bottomLeft' | 'topRight' | 'topLeft';

function cornersOf(
  { width, height }: Rectangle,
  window: Meeting['window'],
): readonly (readonly [Corner, Rectangle])[] {
  const right = window.width - width - MARGIN;
  const bottom = window.height - height - MARGIN;
  return [
    ['bottomRight', { x: right, y: bottom, width, height }],
    ['bottomLeft', { x: MARGIN, y: bottom, width, height }],
    ['topRight', { x: right, y: MARGIN, width, height }],
    ['topLeft', { x: MARGIN, y: MARGIN, width, height }],
  ];
}

function areaOf({ width, height }: Rectangle): number {
  return width * height;
}
