import { placementKey } from '../insert/index.js';
import type { Snapshot, SnapshotSnippet } from './snapshot.js';
import { SNAPSHOT_TEXTS } from '../texts/snapshot.js';
import { say } from '../texts/say.js';

/**
 * A snapshot taken apart, so that what two snapshots have in common is kept once. The places of parts among those of
 * other snippets are apart from the snippets: moving one part renumbers many, and changes nothing else of them.
 */
export interface FrozenSet {
  readonly header: Omit<Snapshot, 'snippets'> & {
    /** The ranks in the snapshot, of all parts of all snippets in their order. */
    readonly ranks: readonly number[];
  };
  /** In the snapshot's order; a part's rank counts among the snippet's own parts in its placement, from 0. */
  readonly snippets: readonly SnapshotSnippet[];
}

/** Takes a snapshot apart. `thawSet` puts it together again, digest and all. */
export function freezeSet({ snippets, ...header }: Snapshot): FrozenSet {
  return {
    header: { ...header, ranks: snippets.flatMap(({ parts }) => parts.map(({ rank }) => rank)) },
    snippets: snippets.map(freezeSnippet),
  };
}

function freezeSnippet(snippet: SnapshotSnippet): SnapshotSnippet {
  const ranks = new Map<string, number[]>();
  for (const { placement, rank } of snippet.parts) {
    const key = placementKey(placement);
    ranks.set(
      key,
      [...(ranks.get(key) ?? []), rank].sort((a, b) => a - b),
    );
  }
  const parts = snippet.parts.map((part) => ({
    ...part,
    rank: ranks.get(placementKey(part.placement))!.indexOf(part.rank),
  }));
  return { ...snippet, parts };
}

/** @throws RangeError where there are not as many ranks as parts */
export function thawSet({ header: { ranks, ...header }, snippets }: FrozenSet): Snapshot {
  let next = 0;
  const thawed = snippets.map((snippet) => ({
    ...snippet,
    parts: snippet.parts.map((part) => ({ ...part, rank: ranks[next++]! })),
  }));
  if (next !== ranks.length)
    throw new RangeError(say(SNAPSHOT_TEXTS.thereCountRanks, { count: ranks.length, next }));
  return { ...header, snippets: thawed };
}
