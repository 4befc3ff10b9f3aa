import type { ApprovalRuleResource } from '@pragmatica/contract';
import { approvalState, approves, plainChanges } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import {
  approvalRule,
  approvalsOf,
  approvalsOfSet,
  notePublished,
  saveApprovalRule,
  type ApprovalRule,
} from '../../storage/approvals.js';
import type { Release, Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { APPROVAL_TEXTS } from '../../texts/approvals.js';
import { withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';

export function ruleResource(rule: ApprovalRule | undefined): ApprovalRuleResource {
  return { isNeeded: rule !== undefined, since: rule?.since.toISOString() ?? null, by: rule?.by ?? null };
}

/** Says whether what goes live needs somebody else’s approval. @throws ServiceError 404 */
export async function setApprovalRule(
  key: string,
  isNeeded: boolean,
  { store, actor }: Acting,
): Promise<ApprovalRuleResource> {
  return withSiteLock(store, key, async (transaction, site) => {
    const before = await approvalRule(transaction, site);
    if (isNeeded === (before !== undefined)) return ruleResource(before);
    await saveApprovalRule(transaction, site, isNeeded ? actor : undefined);
    const said = (needed: boolean): Record<string, object> => ({ approval: { isNeeded: needed } });
    const changes = plainChanges('rule', said(!isNeeded), said(isNeeded));
    audit(
      transaction,
      site,
      actor,
      'approval',
      () => (isNeeded ? APPROVAL_TEXTS.ruleOn : APPROVAL_TEXTS.ruleOff),
      changes,
    );
    await transaction.flush();
    return ruleResource(await approvalRule(transaction, site));
  });
}

/**
 * Holds a set that is to go live against the site’s rule.
 *
 * @param digest - of the set
 * @throws ServiceError 409 where nobody has approved just this set
 */
export async function assertApproved(store: Store, site: Site, digest: string): Promise<void> {
  if (!(await approvalRule(store, site))) return;
  const requests = await approvalsOfSet(store, site, digest);
  if (requests.some((request) => approves(request, digest))) return;
  const open = requests.find((request) => approvalState(request, digest) === 'open');
  if (open) throw new ServiceError('approval-waiting', { by: open.requestedBy });
  const [last] = await approvalsOf(store, site, 1);
  if (last && approvalState(last, digest) === 'void' && last.decision === 'approved')
    throw new ServiceError('approval-void', { by: last.decidedBy ?? '' });
  throw new ServiceError('approval-missing', {});
}

/** The same for a release: those from before the rule need nothing, and what was live once was approved then. */
export async function assertReleaseApproved(store: Store, site: Site, release: Release): Promise<void> {
  const rule = await approvalRule(store, site);
  if (rule && release.createdAt >= rule.since) await assertApproved(store, site, release.digest);
}

/** Says of what was approved that it is live. */
export async function noteLive(store: Store, site: Site, release: Release): Promise<void> {
  await notePublished(store, site, release.digest, release.number);
}
