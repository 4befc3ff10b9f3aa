import type { Placement } from '../insert/index.js';
import { partKey, type Snapshot, type SnapshotPart } from '../snapshot/index.js';
import type { SetChange } from './set-change.js';

/** The set with several changes applied. Keys of parts are those before any of them. */
export function applyChanges(snapshot: Snapshot, changes: readonly SetChange[]): Snapshot {
  const off = new Set(changes.flatMap((change) => (change.kind === 'switch-off' ? [change.snippet] : [])));
  const byPart = new Map<string, PartChange[]>();
  for (const change of changes.flatMap(partChanges))
    byPart.set(change.part, [...(byPart.get(change.part) ?? []), change]);
  return {
    ...snapshot,
    snippets: snapshot.snippets.map((snippet) => ({
      ...snippet,
      state: off.has(snippet.key) ? 'off' : snippet.state,
      parts: [
        ...snippet.parts.flatMap((part, index) => {
          const changed = changedPart(part, byPart.get(partKey(snippet.key, index)) ?? []);
          return changed ? [changed] : [];
        }),
        ...addedParts(changes, snippet.key).map((part) => ({ ...part, rank: LAST })),
      ],
    })),
  };
}

/** The parts that changes give to a snippet. */
export function addedParts(
  changes: readonly SetChange[],
  snippet: string,
): { readonly placement: Placement; readonly code: string }[] {
  return changes.flatMap((change) =>
    change.kind === 'add-part' && change.snippet === snippet
      ? [{ placement: change.placement, code: change.code }]
      : [],
  );
}

/** What a change does to one part. */
export type PartChange =
  | Extract<SetChange, { readonly part: string }>
  | {
      readonly kind: 'rank-part';
      readonly part: string;
      readonly placement: Placement;
      readonly rank: number;
    };

/** A change, part by part; none where it is about a whole snippet. */
export function partChanges(change: SetChange): PartChange[] {
  if (change.kind === 'switch-off' || change.kind === 'add-part') return [];
  if (change.kind !== 'arrange') return [change];
  return change.lists.flatMap(({ placement, parts }) =>
    parts.map((part, rank) => ({ kind: 'rank-part' as const, part, placement, rank })),
  );
}

/** A rank after all others: a part that moves to another placement goes last there. */
const LAST = 1_000_000;

function changedPart(part: SnapshotPart, changes: readonly PartChange[]): SnapshotPart | undefined {
  let changed: SnapshotPart = part;
  for (const change of changes) {
    if (change.kind === 'remove-part') return undefined;
    if (change.kind === 'edit-code') changed = { ...changed, code: change.code };
    else if (change.kind === 'move-part') changed = { ...changed, placement: change.placement, rank: LAST };
    else changed = { ...changed, placement: change.placement, rank: change.rank };
  }
  return changed;
}

/** Keys of the snippets that a change is about, each as often as it is named. */
export function snippetsOf(change: SetChange): string[] {
  if (change.kind === 'switch-off' || change.kind === 'add-part') return [change.snippet];
  if (change.kind !== 'arrange') return [snippetOfPart(change.part)];
  return change.lists.flatMap(({ parts }) => parts.map(snippetOfPart));
}

function snippetOfPart(part: string): string {
  return part.split('/')[0]!;
}
