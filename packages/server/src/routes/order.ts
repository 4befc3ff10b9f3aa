import { applyChanges, difference, placementKey, placementWords } from '@pragmatica/core';
import { assertIfMatch } from '../http/if-match.js';
import type { HandlersOf } from '../http/context.js';
import { errorAt } from '../errors.js';
import { audit, withSiteLock, findSite } from '../site/site-lock.js';
import { draftTag, lastChange, orderData } from '../site/draft-tag.js';
import type { Sets } from '../site/sets.js';
import type { SiteChecks } from '../site/site-checks.js';
import { saveDraft } from '../storage/draft.js';

export function orderHandlers(
  checks: SiteChecks,
  sets: Sets,
): HandlersOf<'showOrder' | 'changeOrder' | 'showOrderReport' | 'rightOrder'> {
  return {
    async showOrder({ params }, { em }) {
      const site = await findSite(em, params.site);
      const { snapshot } = await sets.draft(em, site);
      return { data: { lists: orderData(snapshot) }, etag: draftTag(snapshot) };
    },

    async changeOrder({ params, body }, { em, actor, ifMatch }) {
      return withSiteLock(em, params.site, async (transaction, site) => {
        const { snapshot: before } = await sets.draft(transaction, site);
        assertIfMatch(ifMatch, draftTag(before), 'The draft', await lastChange(transaction, site));
        const lists = new Map(orderData(before).map((list) => [placementKey(list.placement), list]));
        body.lists.forEach(({ placement, parts }, index) => {
          const present = lists.get(placementKey(placement))?.parts ?? [];
          assertSameParts(present, parts, placementWords(placement), `/lists/${index}/parts`);
        });
        const target = applyChanges(before, [{ kind: 'arrange', lists: body.lists, moved: [] }]);
        await saveDraft(transaction, site, before, target, actor);
        const messages = difference(before, target).map((change) => change.message);
        audit(transaction, site, actor, 'order', messages.join(' ') || 'Saved the order without changes.');
        await transaction.flush();
        const { snapshot: after } = await sets.draft(transaction, site);
        return { data: { lists: orderData(after) }, etag: draftTag(after) };
      });
    },

    async showOrderReport({ params, query }, { em }) {
      const site = await findSite(em, params.site);
      const { snapshot } = await sets.resolve(em, site, query.of);
      const known = { ...(await checks.knowledge(em, site)), now: Date.now() };
      const { report } = await checks.readers.run('order', { snapshot, known });
      return { data: report };
    },

    async rightOrder({ params, body }, { em, actor }) {
      const knowledge = await checks.prepare(em, params.site);
      return withSiteLock(em, params.site, async (transaction, site) => {
        const { snapshot: before } = await sets.draft(transaction, site);
        const known = { ...knowledge, now: Date.now() };
        const { change, report } = await checks.readers.run('order', { snapshot: before, known });
        const after = change ? applyChanges(before, [change]) : before;
        const { open } = await checks.applyWaivers(transaction, site, after);
        const stays = new Set(open.map(({ id }) => id));
        const was = (await checks.applyWaivers(transaction, site, before)).open;
        const sentences = report.moves.map(({ sentence }) => sentence);
        if (change && !body.preview) {
          await saveDraft(transaction, site, before, after, actor);
          audit(transaction, site, actor, 'order', `Put in the right order. ${sentences.join(' ')}`);
          await transaction.flush();
        }
        const fixed = was.filter(({ id }) => !stays.has(id));
        return { data: { fixed, changes: sentences, code: [], left: [...open] } };
      });
    },
  };
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
