import type { Store } from '../storage/store.js';
import {
  applyChanges,
  placementKey,
  placementWords,
  sayAllDeferred,
  type PlacementOrder,
} from '@pragmatica/core';
import { errorAt } from '../errors.js';
import { deferMessages } from '../language/speech.js';
import { saveDraft } from '../storage/draft.js';
import { changeWords } from './change-words.js';
import { draftTag, lastChange, orderData } from './draft-tag.js';
import { assertIfMatch } from './if-match.js';
import { audit } from '../storage/trail.js';
import { findSite, withSiteLock } from './site-lock.js';
import type { Acting, SiteTools, Tagged } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

type Lists = { readonly lists: ReturnType<typeof orderData> };

/** The order of a draft's parts. @throws ServiceError 404 */
export async function showOrder({ sets }: SiteTools, store: Store, key: string): Promise<Tagged<Lists>> {
  const { snapshot } = await sets.draft(store, await findSite(store, key));
  return { data: { lists: orderData(snapshot) }, etag: draftTag(snapshot) };
}

/**
 * Gives placements of a draft another order; lists that are not named stay.
 *
 * @param ifMatch - the draft that whoever asks has seen
 * @throws ServiceError 404, 412, 422
 */
export async function changeOrder(
  { sets }: SiteTools,
  key: string,
  wanted: readonly PlacementOrder[],
  ifMatch: string,
  { store, actor }: Acting,
): Promise<Tagged<Lists>> {
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    assertIfMatch(ifMatch, draftTag(before), SITE_TEXTS.draft, await lastChange(transaction, site));
    const lists = new Map(orderData(before).map((list) => [placementKey(list.placement), list]));
    wanted.forEach(({ placement, parts }, index) => {
      const present = lists.get(placementKey(placement))?.parts ?? [];
      assertSameParts(present, parts, placementWords(placement), `/lists/${index}/parts`);
    });
    const target = applyChanges(before, [{ kind: 'arrange', lists: wanted, moved: [] }]);
    await saveDraft(transaction, site, before, target, actor);
    audit(
      transaction,
      site,
      actor,
      'order',
      () => changeWords(before, target) || SITE_TEXTS.savedOrderWithout,
    );
    await transaction.flush();
    const { snapshot: after } = await sets.draft(transaction, site);
    return { data: { lists: orderData(after) }, etag: draftTag(after) };
  });
}

/** What needs what in a set, and the fewest moves that put it in order. @throws ServiceError 404 */
export async function showOrderReport(
  { checks, sets }: SiteTools,
  store: Store,
  key: string,
  reference: string,
) {
  const site = await findSite(store, key);
  const { snapshot } = await sets.resolve(store, site, reference);
  const known = { ...(await checks.knowledge(store, site)), now: Date.now() };
  return (await checks.readers.run('order', { snapshot, known })).report;
}

/** Puts a draft in the right order, or says what that would do. @throws ServiceError 404 */
export async function rightOrder(
  { checks, sets }: SiteTools,
  key: string,
  { preview }: { readonly preview: boolean },
  { store, actor }: Acting,
) {
  const knowledge = await checks.prepare(store, key);
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    const known = { ...knowledge, now: Date.now() };
    const { change, report } = await deferMessages(() =>
      checks.readers.run('order', { snapshot: before, known }),
    );
    const after = change ? applyChanges(before, [change]) : before;
    const { open } = await checks.applyWaivers(transaction, site, after);
    const stays = new Set(open.map(({ id }) => id));
    const was = (await checks.applyWaivers(transaction, site, before)).open;
    const sentences = report.moves.map(({ sentence }) => sentence);
    if (change && !preview) {
      await saveDraft(transaction, site, before, after, actor);
      audit(transaction, site, actor, 'order', () =>
        say(SITE_TEXTS.putRightOrder, { sentences: sentences.join(' ') }),
      );
      await transaction.flush();
    }
    const fixed = was.filter(({ id }) => !stays.has(id));
    return { fixed, changes: sayAllDeferred(sentences), code: [], left: [...open] };
  });
}

function assertSameParts(
  present: readonly string[],
  wanted: readonly string[],
  where: string,
  pointer: string,
): void {
  const isSame =
    present.length === wanted.length &&
    new Set(wanted).size === wanted.length &&
    wanted.every((key) => present.includes(key));
  if (isSame) return;
  throw errorAt(pointer, 'parts-differ', { where, parts: present.join(', ') || 'none' });
}
