import type { Undone } from '@pragmatica/contract';
import {
  difference,
  isDraftChange,
  listWords,
  undoChanges,
  type DraftChange,
  type UndoChoice,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { saveDraft } from '../storage/draft.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { say } from '../texts/say.js';
import { SITE_TEXTS } from '../texts/site.js';
import { TRAIL_TEXTS } from '../texts/trail.js';
import { findActivity } from './activity-detail.js';
import { draftTag, lastChange } from './draft-tag.js';
import { changeWords } from './change-words.js';
import { assertIfMatch } from './if-match.js';
import type { Sets } from './sets.js';
import { withSiteLock } from './site-lock.js';
import type { Acting, Tagged } from './use-case.js';

export interface UndoRequest {
  /** Keys of snippets; left out: all that the change did. */
  readonly only?: readonly string[] | undefined;
  /** By id of the conflict. */
  readonly choices: Readonly<Record<string, UndoChoice>>;
  readonly preview: boolean;
  /** The draft that whoever undoes has seen. */
  readonly ifMatch: string;
}

/**
 * Takes one change back out of a draft, whatever came after it, or says what that would do. Releases stay what they are.
 *
 * @throws ServiceError 404; 412; 409 where it did nothing to the draft, or something that was changed again is not decided
 */
export async function undoChange(
  sets: Sets,
  key: string,
  id: number,
  { only, choices, preview, ifMatch }: UndoRequest,
  { store, actor }: Acting,
): Promise<Tagged<Undone>> {
  return withSiteLock(store, key, async (transaction, site) => {
    const { entry, changes } = await findActivity(transaction, site, id);
    const wanted = changes
      .filter(isDraftChange)
      .filter(({ kind, key: one }) => !only || (kind === 'snippet' && only.includes(one)));
    if (wanted.length === 0) throw new ServiceError('nothing-to-undo', {});
    const { snapshot: before } = await sets.draft(transaction, site);
    const tag = draftTag(before);
    assertIfMatch(ifMatch, tag, SITE_TEXTS.draft, await lastChange(transaction, site));
    const { target, conflicts, gone } = undoChanges(before, wanted, choices);
    const words = difference(before, target).map(({ message }) => message);
    const data = { changes: words, conflicts: [...conflicts], gone: [...gone] };
    if (preview) return { data: { isDone: false, ...data }, etag: tag };
    const open = conflicts.filter(({ id: one }) => !Object.hasOwn(choices, one));
    if (open.length > 0)
      throw new ServiceError('undo-undecided', { things: open.map(({ what }) => what), count: open.length });
    if (draftTag(target) === tag) return { data: { isDone: false, ...data }, etag: tag };
    await saveDraft(transaction, site, before, target, actor);
    audit(transaction, site, actor, 'undo', () => said(entry, wanted, changeWords(before, target)));
    await transaction.flush();
    await notifyGateways(transaction, site);
    const { snapshot: saved } = await sets.draft(transaction, site);
    return { data: { isDone: true, ...data }, etag: draftTag(saved) };
  });
}

function said(
  { id, by }: { readonly id: number; readonly by: string },
  wanted: readonly DraftChange[],
  changes: string,
): string {
  const back = wanted.filter((change) => change.kind === 'snippet' && change.after === null);
  if (back.length === wanted.length) {
    const names = back.map(({ before }) => `“${before.name}”`);
    return say(TRAIL_TEXTS.restored, { names: listWords(names) });
  }
  return say(TRAIL_TEXTS.undid, { entry: String(id), by, changes });
}
