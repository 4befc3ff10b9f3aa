import { ANCHOR_SIDES, NAMED_PLACEMENTS, anchorName, isAnchor, type Placement } from '../insert/index.js';
import type { Snapshot, SnapshotPart, SnapshotSnippet } from './snapshot.js';

export interface PlacedPart {
  /** `snippet-key/number`, the number from 1 in the order of the snippet's parts. */
  readonly key: string;
  readonly snippet: SnapshotSnippet;
  readonly part: SnapshotPart;
}

/** The key of a snippet's part: its place in the snippet from 1. */
export function partKey(snippetKey: string, index: number): string {
  return `${snippetKey}/${index + 1}`;
}

/** The key of the snippet of a part. */
export function snippetOfPart(key: string): string {
  return key.slice(0, key.lastIndexOf('/'));
}

/** The number of a part among those of its snippet, from 1, by its key. */
export function numberOfPart(key: string): number {
  return Number(key.slice(key.lastIndexOf('/') + 1));
}

/**
 * All parts in page order: head start, head end, body start, anchors by name, body end; by rank within a placement.
 * Parts of equal rank stand in the order of their keys, so that the order is always total.
 */
export function orderedParts(snapshot: Snapshot): PlacedPart[] {
  const parts = snapshot.snippets.flatMap((snippet) =>
    snippet.parts.map((part, index) => ({ key: partKey(snippet.key, index), snippet, part })),
  );
  return parts.sort(comparePlaced);
}

/** Which of two parts comes first in pages. */
export function comparePlaced(a: PlacedPart, b: PlacedPart): number {
  return (
    comparePlacements(a.part.placement, b.part.placement) ||
    a.part.rank - b.part.rank ||
    compareText(a.key, b.key)
  );
}

function comparePlacements(a: Placement, b: Placement): number {
  if (a === b) return 0;
  return placementPosition(a) - placementPosition(b) || compareText(placementOrder(a), placementOrder(b));
}

/** Sorts anchors by the name of their element, and those of one element as they stand in the page. */
function placementOrder(placement: Placement): string {
  if (!isAnchor(placement)) return placement;
  return `${anchorName(placement)} ${ANCHOR_SIDES.indexOf(placement.side)}`;
}

/** Where a placement stands in a page: anchors somewhere between the ends of the body. */
export function placementPosition(placement: Placement): number {
  if (isAnchor(placement)) return 2.5;
  return NAMED_PLACEMENTS.indexOf(placement);
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
