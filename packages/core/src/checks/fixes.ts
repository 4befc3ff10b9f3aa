import { partKey, type Snapshot, type SnapshotPart } from '../release/index.js';
import type { SetChange, Fix } from './types.js';

/** The set with a fix applied; what the fix does not name stays as it is. */
export function applyFix(snapshot: Snapshot, fix: Fix): Snapshot {
  return applyChanges(snapshot, fix.changes);
}

/** The set with several changes applied. Keys of parts are those before any of them. */
export function applyChanges(snapshot: Snapshot, changes: readonly SetChange[]): Snapshot {
  const byPart = new Map<string, SetChange[]>();
  for (const change of changes) byPart.set(change.part, [...(byPart.get(change.part) ?? []), change]);
  return {
    ...snapshot,
    snippets: snapshot.snippets.map((snippet) => ({
      ...snippet,
      parts: snippet.parts.flatMap((part, index) => {
        const changed = changedPart(part, byPart.get(partKey(snippet.key, index)) ?? []);
        return changed ? [changed] : [];
      }),
    })),
  };
}

/** A rank after all others: a part that moves to another placement goes last there. */
const LAST = 1_000_000;

function changedPart(part: SnapshotPart, changes: readonly SetChange[]): SnapshotPart | undefined {
  let changed: SnapshotPart = part;
  for (const change of changes) {
    if (change.kind === 'remove-part') return undefined;
    if (change.kind === 'edit-code') changed = { ...changed, code: change.code };
    else changed = { ...changed, placement: change.placement, rank: LAST };
  }
  return changed;
}
