import {
  applyChanges,
  partKey,
  placementKey,
  type Placement,
  type SetChange,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { saveDraft } from '../storage/draft.js';
import { audit } from '../storage/trail.js';
import { changeWords } from './change-words.js';
import { withSiteLock } from './site-lock.js';
import type { Sets } from './sets.js';
import type { Acting } from './use-case.js';

/**
 * Moves several snippets of a draft to another placement. What has parts in several places is left alone: each of them
 * is where it is for a reason.
 *
 * @throws ServiceError 404
 */
export async function moveSnippets(
  sets: Sets,
  key: string,
  keys: readonly string[],
  placement: Placement,
  { store, actor }: Acting,
): Promise<{ readonly moved: string[]; readonly left: string[] }> {
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    const byKey = new Map(before.snippets.map((snippet) => [snippet.key, snippet]));
    const missing = keys.find((one) => !byKey.has(one));
    if (missing !== undefined) throw new ServiceError('no-such-snippet', { site: key, snippet: missing });
    const wanted = [...new Set(keys)].map((one) => byKey.get(one)!);
    const movable = wanted.filter(isInOnePlace);
    const target = applyChanges(
      before,
      movable.flatMap((snippet) => moves(snippet, placement)),
    );
    await saveDraft(transaction, site, before, target, actor);
    if (changeWords(before, target) !== '')
      audit(transaction, site, actor, 'snippet.edit', () => changeWords(before, target));
    await transaction.flush();
    const moved = movable.map((one) => one.key);
    return { moved, left: wanted.filter((one) => !movable.includes(one)).map((one) => one.key) };
  });
}

function isInOnePlace({ parts }: SnapshotSnippet): boolean {
  return new Set(parts.map((part) => placementKey(part.placement))).size === 1;
}

function moves({ key, parts }: SnapshotSnippet, placement: Placement): SetChange[] {
  return parts.flatMap((part, index): SetChange[] =>
    placementKey(part.placement) === placementKey(placement)
      ? []
      : [{ kind: 'move-part', part: partKey(key, index), placement }],
  );
}
