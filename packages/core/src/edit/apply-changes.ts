import { placementKey, type Placement } from '../insert/index.js';
import { partKey, snippetOfPart, type Snapshot, type SnapshotPart } from '../snapshot/index.js';
import type { SetChange } from './set-change.js';

/**
 * The set with several changes applied. Keys of parts are those before any of them. A part that is new in a placement, or
 * moved to one, goes last there.
 */
export function applyChanges(snapshot: Snapshot, changes: readonly SetChange[]): Snapshot {
  const off = new Set(changes.flatMap((change) => (change.kind === 'switch-off' ? [change.snippet] : [])));
  const pages = new Map(
    changes.flatMap((change) =>
      change.kind === 'edit-pages' ? [[change.snippet, change.pages] as const] : [],
    ),
  );
  const byPart = new Map<string, PartChange[]>();
  for (const change of changes.flatMap(partChanges))
    byPart.set(change.part, [...(byPart.get(change.part) ?? []), change]);
  const lastIn = ranksAfterAll(snapshot, changes);
  return {
    ...snapshot,
    snippets: snapshot.snippets.map((snippet) => ({
      ...snippet,
      state: off.has(snippet.key) ? 'off' : snippet.state,
      pages: pages.get(snippet.key) ?? snippet.pages,
      parts: [
        ...snippet.parts.flatMap((part, index) => {
          const changed = changedPart(part, byPart.get(partKey(snippet.key, index)) ?? [], lastIn);
          return changed ? [changed] : [];
        }),
        ...addedParts(changes, snippet.key).map((part) => ({ ...part, rank: lastIn(part.placement) })),
      ],
    })),
  };
}

/** What follows the last part of each placement, one rank more each time. */
function ranksAfterAll(snapshot: Snapshot, changes: readonly SetChange[]): (placement: Placement) => number {
  const next = new Map<string, number>();
  const note = (placement: Placement, rank: number): void => {
    const key = placementKey(placement);
    next.set(key, Math.max(next.get(key) ?? 0, rank + 1));
  };
  for (const { parts } of snapshot.snippets) for (const { placement, rank } of parts) note(placement, rank);
  for (const change of changes)
    if (change.kind === 'arrange')
      for (const { placement, parts } of change.lists) note(placement, parts.length - 1);
  return (placement) => {
    const rank = next.get(placementKey(placement)) ?? 0;
    note(placement, rank);
    return rank;
  };
}

/** The parts that changes give to a snippet. */
function addedParts(
  changes: readonly SetChange[],
  snippet: string,
): Pick<SnapshotPart, 'placement' | 'code'>[] {
  return changes.flatMap((change) =>
    change.kind === 'add-part' && change.snippet === snippet
      ? [{ placement: change.placement, code: change.code }]
      : [],
  );
}

/** What a change does to one part. */
type PartChange =
  | Extract<SetChange, { readonly part: string }>
  | {
      readonly kind: 'rank-part';
      readonly part: string;
      readonly placement: Placement;
      readonly rank: number;
    };

/** A change, part by part; none where it is about a whole snippet. */
function partChanges(change: SetChange): PartChange[] {
  if ('snippet' in change) return [];
  if (change.kind !== 'arrange') return [change];
  return change.lists.flatMap(({ placement, parts }) =>
    parts.map((part, rank) => ({ kind: 'rank-part' as const, part, placement, rank })),
  );
}

function changedPart(
  part: SnapshotPart,
  changes: readonly PartChange[],
  lastIn: (placement: Placement) => number,
): SnapshotPart | undefined {
  let changed: SnapshotPart = part;
  for (const change of changes) {
    if (change.kind === 'remove-part') return undefined;
    if (change.kind === 'edit-code') changed = { ...changed, code: change.code };
    else {
      const { placement } = change;
      changed = {
        ...changed,
        placement,
        rank: change.kind === 'move-part' ? lastIn(placement) : change.rank,
      };
    }
  }
  return changed;
}

/** Keys of the snippets that a change is about, each as often as it is named. */
export function snippetsOf(change: SetChange): string[] {
  if ('snippet' in change) return [change.snippet];
  if (change.kind !== 'arrange') return [snippetOfPart(change.part)];
  return change.lists.flatMap(({ parts }) => parts.map(snippetOfPart));
}
