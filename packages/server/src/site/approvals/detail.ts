import type { ApprovalDetail } from '@pragmatica/contract';
import {
  approvalState,
  countFindings,
  difference,
  newFindings,
  snapshotDigest,
  whyNotToDecide,
  wordFinding,
} from '@pragmatica/core';
import type { Approval } from '../../storage/approvals.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { lastRehearsal, lastWeighing } from '../../storage/visit-rounds.js';
import { codeChanges } from '../code-changes.js';
import { emptySnapshot, findRelease } from '../sets.js';
import { findSite } from '../site-lock.js';
import type { SiteTools } from '../use-case.js';
import { showWeight } from '../visits/weight.js';
import { approvalResource, findApproval } from './requests.js';

export interface Looking {
  /** Login; undefined for somebody with a link. */
  readonly who: string | undefined;
  readonly locale: string;
}

/** All that somebody looks at before they approve. @throws ServiceError 404 */
export async function showApproval(
  tools: SiteTools,
  store: Store,
  key: string,
  id: number,
  looking: Looking,
): Promise<ApprovalDetail> {
  const site = await findSite(store, key);
  return describeApproval(tools, store, site, await findApproval(store, site, id), looking);
}

/** The same of a request that was found. What is over or void shows what it was, and nothing of what it would do. */
export async function describeApproval(
  tools: SiteTools,
  store: Store,
  site: Site,
  approval: Approval,
  { who, locale }: Looking,
): Promise<ApprovalDetail> {
  const { checks, sets } = tools;
  const { snapshot: draft } = await sets.draft(store, site);
  const digest = snapshotDigest(draft);
  const state = approvalState(approval, digest);
  const base = {
    ...approvalResource(approval, digest),
    siteName: site.name,
    whyNot: whyNotToDecide(approval, state, who) ?? null,
  };
  if (state !== 'open' && state !== 'approved')
    return {
      ...base,
      ...{ changes: [], code: [], findings: [], rehearsal: null, weight: null },
      counts: { error: 0, warning: 0, advice: 0, waived: 0 },
    };
  const target =
    approval.release === null
      ? draft
      : await sets.release(store, await findRelease(store, site, approval.release));
  const served = (await sets.served(store, site, 'live'))?.snapshot ?? emptySnapshot(site);
  const { open, waived } = await checks.applyWaivers(store, site, target);
  const fresh = new Set(
    newFindings(open, await checks.find(served, await checks.knowledge(store, site))).map(({ id }) => id),
  );
  const shown = open.filter(
    ({ id, severity }) => severity === 'error' || (severity === 'warning' && fresh.has(id)),
  );
  const rehearsal = await lastRehearsal(store, site, approval.digest);
  return {
    ...base,
    changes: difference(served, target).map(({ message, visible }) => ({ message, visible })),
    code: codeChanges(served, target),
    findings: shown.map((finding) => ({
      severity: finding.severity,
      title: wordFinding(finding, locale).title,
      isNew: fresh.has(finding.id),
    })),
    counts: { ...countFindings(open), waived: waived.length },
    rehearsal: rehearsal ? { round: rehearsal.number, isWell: rehearsal.isWell === true } : null,
    weight: await weightOf(store, site, approval.digest),
  };
}

async function weightOf(store: Store, site: Site, digest: string): Promise<ApprovalDetail['weight']> {
  const round = await lastWeighing(store, site, digest);
  if (!round) return null;
  const { pages, budgetKb, isWithin } = await showWeight(store, site.key, round.number);
  const most = (of: 'bytes' | 'requests'): number => Math.max(0, ...pages.map(({ adds }) => adds[of]));
  return { round: round.number, bytes: most('bytes'), requests: most('requests'), budgetKb, isWithin };
}
