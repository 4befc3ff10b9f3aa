import { placementKey, type Placement } from '../insert/index.js';
import { orderedParts, type Snapshot } from '../snapshot/index.js';

/** Part keys in the order in which they run, by placement. */
export interface PlacementOrder {
  readonly placement: Placement;
  readonly parts: readonly string[];
}

export type MoveTarget =
  { readonly to: 'first' | 'last' } | { readonly before: string } | { readonly after: string };

/** The order lists of a snapshot, in page order. */
export function orderLists(snapshot: Snapshot): PlacementOrder[] {
  const lists = new Map<string, { placement: Placement; parts: string[] }>();
  for (const { key, part } of orderedParts(snapshot)) {
    const group = placementKey(part.placement);
    const list = lists.get(group);
    if (list) list.parts.push(key);
    else lists.set(group, { placement: part.placement, parts: [key] });
  }
  return [...lists.values()];
}

/** The list with one part moved. Returns undefined when the part or the one it refers to is not in the list. */
export function moveInList(parts: readonly string[], part: string, target: MoveTarget): string[] | undefined {
  const rest = parts.filter((key) => key !== part);
  if (rest.length === parts.length) return undefined;
  if ('to' in target) return target.to === 'first' ? [part, ...rest] : [...rest, part];
  const reference = 'before' in target ? target.before : target.after;
  const at = rest.indexOf(reference);
  if (at < 0) return undefined;
  rest.splice('before' in target ? at : at + 1, 0, part);
  return rest;
}
