import type { Placement } from '../insert/index.js';
import { partKey, type Snapshot, type SnapshotPart } from '../release/index.js';
import type { Knowledge } from './checked-set.js';
import { runChecks } from './run-checks.js';
import type { Finding, Fix, SetChange } from './types.js';

/** The set with a fix applied; what the fix does not name stays as it is. */
export function applyFix(snapshot: Snapshot, fix: Fix): Snapshot {
  return applyChanges(snapshot, fix.changes);
}

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

export interface Mended {
  readonly snapshot: Snapshot;
  /** The findings that were mended, by their own fix or by that of another. */
  readonly mended: readonly Finding[];
  /** The changes in rounds: the keys of parts in each are those that the round before has left. */
  readonly rounds: readonly (readonly SetChange[])[];
  /** What is still found. */
  readonly left: readonly Finding[];
}

/** One fix may bring another to light; no set needs as many rounds. */
const MOST_ROUNDS = 10;

/**
 * Applies every fix of a set, or those of some findings, until none is left. One part is changed once in a round, so
 * that fixes do not undo each other.
 *
 * @param isMeant - which findings to mend, also of those that a fix brings to light; all when left out
 */
export function mend(
  snapshot: Snapshot,
  knowledge: Knowledge = {},
  isMeant: (finding: Finding) => boolean = () => true,
): Mended {
  const wanted = new Map<string, Finding>();
  const rounds: (readonly SetChange[])[] = [];
  let current = snapshot;
  let left = runChecks(current, knowledge);
  while (rounds.length < MOST_ROUNDS) {
    const touched = new Set<string>();
    const changes: SetChange[] = [];
    for (const finding of left) {
      if (!finding.fix || !isMeant(finding)) continue;
      wanted.set(finding.id, finding);
      // Removing a part gives those after it other keys: one change of a snippet at a time.
      const snippets = finding.fix.changes.flatMap(snippetsOf);
      if (snippets.some((snippet) => touched.has(snippet))) continue;
      for (const snippet of snippets) touched.add(snippet);
      changes.push(...finding.fix.changes);
    }
    if (changes.length === 0) break;
    rounds.push(changes);
    current = applyChanges(current, changes);
    left = runChecks(current, knowledge);
  }
  const still = new Set(left.map(({ id }) => id));
  const mended = [...wanted.values()].filter(({ id }) => !still.has(id));
  return { snapshot: current, mended, rounds, left };
}
