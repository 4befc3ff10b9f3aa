import type { Snapshot } from '../snapshot/index.js';
import { applyChanges, snippetsOf, type SetChange } from '../edit/index.js';
import type { Knowledge } from './knowledge.js';
import { runChecks } from './run-checks.js';
import type { Finding, Fix } from './finding.js';

/** The set with a fix applied; what the fix does not name stays as it is. */
export function applyFix(snapshot: Snapshot, fix: Fix): Snapshot {
  return applyChanges(snapshot, fix.changes);
}

export interface FixResult {
  readonly snapshot: Snapshot;
  /** The findings that were fixed, by their own fix or by that of another. */
  readonly fixed: readonly Finding[];
  /** What is still found. */
  readonly left: readonly Finding[];
}

/** One fix may bring another to light; no set needs as many rounds. */
const MAX_ROUNDS = 10;

/**
 * Applies every fix of a set, or those of some findings, until none is left. One part is changed once in a round, so
 * that fixes do not undo each other.
 *
 * @param isMeant - which findings to fix, also of those that a fix brings to light; all when left out
 */
export function fixAll(
  snapshot: Snapshot,
  knowledge: Knowledge = {},
  isMeant: (finding: Finding) => boolean = () => true,
): FixResult {
  const wanted = new Map<string, Finding>();
  let current = snapshot;
  let left = runChecks(current, knowledge);
  for (let round = 0; round < MAX_ROUNDS; round++) {
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
    current = applyChanges(current, changes);
    left = runChecks(current, knowledge);
  }
  const still = new Set(left.map(({ id }) => id));
  const fixed = [...wanted.values()].filter(({ id }) => !still.has(id));
  return { snapshot: current, fixed, left };
}
