import type { Undone } from '@pragmatica/contract';
import { difference, listWords, undoChanges, type DraftChange, type UndoChoice } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { saveDraft } from '../storage/draft.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { say } from '../texts/say.js';
import { TRAIL_TEXTS } from '../texts/trail.js';
import { draftChangesOf, findActivity } from './activity.js';
import { draftTag } from './draft-tag.js';
import type { Sets } from './sets.js';
import { withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';

export interface UndoRequest {
  /** Keys of snippets; left out: all that the change did. */
  readonly only?: readonly string[] | undefined;
  /** By id of the conflict. */
  readonly choices: Readonly<Record<string, UndoChoice>>;
  readonly preview: boolean;
}

/**
 * Takes one change back out of a draft, whatever came after it, or says what that would do. Releases stay what they are.
 *
 * @throws ServiceError 404; 409 where it did nothing to the draft, or something that was changed again is not decided
 */
export async function undoChange(
  sets: Sets,
  key: string,
  id: number,
  { only, choices, preview }: UndoRequest,
  { store, actor }: Acting,
): Promise<Undone> {
  return withSiteLock(store, key, async (transaction, site) => {
    const { entry, changes } = await findActivity(transaction, site, id);
    const wanted = draftChangesOf(changes).filter(
      (change) => !only || (change.kind === 'snippet' && only.includes(change.key)),
    );
    if (wanted.length === 0) throw new ServiceError('nothing-to-undo', {});
    const { snapshot: before } = await sets.draft(transaction, site);
    const { target, conflicts, gone } = undoChanges(before, wanted, choices);
    const words = difference(before, target).map(({ message }) => message);
    const data = { changes: words, conflicts: [...conflicts], gone: [...gone] };
    if (preview) return { isDone: false, ...data };
    const open = conflicts.filter(({ id: one }) => !Object.hasOwn(choices, one));
    if (open.length > 0)
      throw new ServiceError('undo-undecided', { things: open.map(({ what }) => what), count: open.length });
    if (draftTag(target) === draftTag(before)) return { isDone: false, ...data };
    await saveDraft(transaction, site, before, target, actor);
    audit(transaction, site, actor, 'undo', said(entry, wanted, words));
    await transaction.flush();
    await notifyGateways(transaction, site);
    return { isDone: true, ...data };
  });
}

function said(
  { id, by }: { readonly id: number; readonly by: string },
  wanted: readonly DraftChange[],
  words: readonly string[],
): string {
  const back = wanted.filter((change) => change.kind === 'snippet' && change.after === null);
  if (back.length === wanted.length) {
    const names = back.map(({ before }) => `“${before.name}”`);
    return say(TRAIL_TEXTS.restored, { names: listWords(names) });
  }
  return say(TRAIL_TEXTS.undid, { entry: String(id), by, changes: words.join(' ') });
}
