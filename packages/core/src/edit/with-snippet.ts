import { placementKey, type Placement } from '../insert/index.js';
import type { Snapshot, SnapshotPart, SnapshotSnippet } from '../snapshot/index.js';

interface Ranked {
  readonly placement: Placement;
  readonly rank: number;
}

/**
 * Ranks for the parts that a snippet is to have. A part that stays in its placement keeps its rank; one that is new
 * there goes last.
 *
 * @param all - every part of the set, those of the snippet included
 * @param before - the snippet's own parts as they are, by position
 * @param parts - the parts that it is to have
 */
export function ranksFor(
  all: readonly Ranked[],
  before: readonly Ranked[],
  parts: readonly { readonly placement: Placement }[],
): number[] {
  const next = new Map<string, number>();
  for (const { placement, rank } of all) {
    const key = placementKey(placement);
    next.set(key, Math.max(next.get(key) ?? 0, rank + 1));
  }
  return parts.map(({ placement }, position) => {
    const key = placementKey(placement);
    const old = before[position];
    if (old && placementKey(old.placement) === key) return old.rank;
    const rank = next.get(key) ?? 0;
    next.set(key, rank + 1);
    return rank;
  });
}

/** A snippet as it is typed: its parts have no ranks yet. */
export interface UnrankedSnippet extends Omit<SnapshotSnippet, 'parts'> {
  readonly parts: readonly Omit<SnapshotPart, 'rank'>[];
}

/** The set with one snippet more, or in place of the one with its key. */
export function withSnippet(snapshot: Snapshot, snippet: UnrankedSnippet): Snapshot {
  const before = snapshot.snippets.find(({ key }) => key === snippet.key);
  const all = snapshot.snippets.flatMap(({ parts }) => parts);
  const ranks = ranksFor(all, before?.parts ?? [], snippet.parts);
  const ranked = { ...snippet, parts: snippet.parts.map((part, i) => ({ ...part, rank: ranks[i]! })) };
  const snippets = before
    ? snapshot.snippets.map((other) => (other === before ? ranked : other))
    : [...snapshot.snippets, ranked];
  return { ...snapshot, snippets };
}
