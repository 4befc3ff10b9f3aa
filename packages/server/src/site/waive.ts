import { isWaivable, plainChanges, wordFinding, type Waiver } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import { removeWaiver as removeRow, saveWaiver, waiversOf } from '../storage/waivers.js';
import { today } from './site-checks.js';
import { audit } from '../storage/trail.js';
import { withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface WaiverInput {
  readonly reason: string;
  /** The last day, `2027-03-31`. */
  readonly until: string;
}

/** Accepts a finding of a site's draft for a while. @throws ServiceError 404, 422 */
export async function waiveFinding(
  { checks, sets }: SiteTools,
  key: string,
  id: string,
  input: WaiverInput,
  { store, actor }: Acting,
): Promise<Waiver> {
  await checks.prepare(store, key);
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot } = await sets.draft(transaction, site);
    const found = await checks.find(snapshot, await checks.knowledge(transaction, site));
    const finding = found.find((one) => one.id === id);
    if (!finding) throw new ServiceError('finding-gone', { finding: id });
    const { title, advice, fingerprint } = wordFinding(finding);
    if (!isWaivable(finding)) throw new ServiceError('cannot-be-accepted', { title, advice });
    if (input.until < today(site)) throw errorAt('/until', 'day-over', { day: input.until });
    const waiver = { finding: id, fingerprint, ...input, author: actor };
    const was = (await waiversOf(transaction, site)).find((one) => one.finding === id);
    const before = was && { [id]: saidOf(was) };
    await saveWaiver(transaction, site, waiver, title);
    const said = (): string =>
      say(SITE_TEXTS.acceptedUntilUntil, {
        ...{ until: input.until, reason: input.reason },
        title: wordFinding(finding).title,
      });
    const changes = plainChanges('finding', before ?? {}, { [id]: saidOf(waiver) });
    audit(transaction, site, actor, 'waive', said, changes);
    await transaction.flush();
    return waiver;
  });
}

/** Takes back that a finding was accepted. @throws ServiceError 404 */
export async function removeWaiver(key: string, id: string, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const waiver = await removeRow(transaction, site, id);
    if (!waiver) throw new ServiceError('not-accepted', { finding: id });
    const changes = plainChanges('finding', { [id]: saidOf(waiver) }, {});
    audit(
      transaction,
      site,
      actor,
      'waive',
      () => say(SITE_TEXTS.noLongerAccepted, { title: waiver.title }),
      changes,
    );
    await transaction.flush();
  });
}

/** What the trail keeps of it. */
function saidOf({ reason, until }: { readonly reason: string; readonly until: string }): object {
  return { reason, until };
}
