import { isWaivable, type Waiver } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import { WaiverEntity } from '../storage/entities/index.js';
import { today } from './site-checks.js';
import { audit, withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';

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
  { em, actor }: Acting,
): Promise<Waiver> {
  await checks.prepare(em, key);
  return withSiteLock(em, key, async (transaction, site) => {
    const { snapshot } = await sets.draft(transaction, site);
    const found = await checks.find(snapshot, await checks.knowledge(transaction, site));
    const finding = found.find((one) => one.id === id);
    if (!finding) throw new ServiceError('finding-gone', { finding: id });
    const { title, advice, fingerprint } = finding;
    if (!isWaivable(finding)) throw new ServiceError('cannot-be-accepted', { title, advice });
    if (input.until < today(site)) throw errorAt('/until', 'day-over', { day: input.until });
    const waiver = { fingerprint, ...input, author: actor };
    const old = await transaction.findOne(WaiverEntity, { site, finding: id });
    const values = { ...waiver, title, createdAt: new Date() };
    if (old) Object.assign(old, values);
    else transaction.create(WaiverEntity, { site, finding: id, ...values }, { persist: true });
    const said = `Accepted until ${input.until}: ${title}. Reason: ${input.reason}`;
    audit(transaction, site, actor, 'waive', said);
    await transaction.flush();
    return { finding: id, ...waiver };
  });
}

/** Takes back that a finding was accepted. @throws ServiceError 404 */
export async function removeWaiver(key: string, id: string, { em, actor }: Acting): Promise<void> {
  await withSiteLock(em, key, async (transaction, site) => {
    const waiver = await transaction.findOne(WaiverEntity, { site, finding: id });
    if (!waiver) throw new ServiceError('not-accepted', { finding: id });
    transaction.remove(waiver);
    audit(transaction, site, actor, 'waive', `No longer accepted: ${waiver.title}.`);
    await transaction.flush();
  });
}
