import type { ApprovalResource, EndpointResponse, Endpoints } from '@pragmatica/contract';
import { approvalState, snapshotDigest, whyNotToDecide, type Act, type Decision } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import {
  approvalById,
  approvalRule,
  approvalsOf,
  insertApproval,
  saveDecision,
  type Approval,
} from '../../storage/approvals.js';
import { toPage } from '../../storage/cursor.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { APPROVAL_TEXTS } from '../../texts/approvals.js';
import { say } from '../../texts/say.js';
import { SITE_TEXTS } from '../../texts/site.js';
import type { NewestListing } from '../activity.js';
import { assertMay } from '../assert-may.js';
import { draftTag, lastChange } from '../draft-tag.js';
import { assertIfMatch } from '../if-match.js';
import { findRelease, type Sets } from '../sets.js';
import { findSite, withSiteLock } from '../site-lock.js';
import type { Acting, ActingWithin } from '../use-case.js';
import { tellAct, type Home } from '../watch/tell-act.js';
import { ruleResource } from './rule.js';

export type Approvals = EndpointResponse<Endpoints['listApprovals']>;

/** The rule of a site, and its requests, the newest first. @throws ServiceError 404 */
export async function listApprovals(
  sets: Sets,
  store: Store,
  key: string,
  { limit, after }: NewestListing,
): Promise<Approvals> {
  const site = await findSite(store, key);
  const draft = await draftDigest(sets, store, site);
  const found = await approvalsOf(store, site, limit + 1, after?.[0]);
  const { page, next } = toPage(found, limit, ({ id }) => [id]);
  return {
    rule: ruleResource(await approvalRule(store, site)),
    items: page.map((approval) => approvalResource(approval, draft)),
    next,
  };
}

export async function draftDigest(sets: Sets, store: Store, site: Site): Promise<string> {
  return snapshotDigest((await sets.draft(store, site)).snapshot);
}

/** @param draft - digest of the draft as it is now */
export function approvalResource(approval: Approval, draft: string): ApprovalResource {
  const { id, message, release, requestedBy, decidedBy, note, published } = approval;
  return {
    ...{ id, message, release, requestedBy, decidedBy, note, published },
    state: approvalState(approval, draft),
    requestedAt: approval.requestedAt.toISOString(),
    decidedAt: approval.decidedAt?.toISOString() ?? null,
  };
}

/** What it takes to say what a draft is, and to tell others where to look at it. */
export interface ApprovalTools {
  readonly sets: Sets;
  readonly home: Home;
}

export interface AskRequest {
  readonly message: string;
  /** The draft when left out. */
  readonly release?: number | undefined;
  /** The draft that whoever asks has seen. */
  readonly ifMatch: string;
}

/** Asks for approval of just the set that somebody has seen. @throws ServiceError 404, 409, 412 */
export async function askApproval(
  { sets, home }: ApprovalTools,
  key: string,
  { message, release, ifMatch }: AskRequest,
  { store, actor }: Acting,
): Promise<ApprovalResource> {
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot } = await sets.draft(transaction, site);
    const draft = snapshotDigest(snapshot);
    let digest = draft;
    if (release === undefined)
      assertIfMatch(ifMatch, draftTag(snapshot), SITE_TEXTS.draft, await lastChange(transaction, site));
    else ({ digest } = await findRelease(transaction, site, release));
    const served = await sets.served(transaction, site, 'live');
    if (served && snapshotDigest(served.snapshot) === digest) throw new ServiceError('approval-nothing', {});
    const values = { digest, release: release ?? null, message, requestedBy: actor };
    const made = await insertApproval(transaction, site, values);
    const said = (): string =>
      release === undefined
        ? say(APPROVAL_TEXTS.asked, { message })
        : say(APPROVAL_TEXTS.askedRelease, { release, message });
    audit(transaction, site, actor, 'approval', said);
    await transaction.flush();
    const act = { kind: 'asked', by: actor, message } as const;
    const more = { approval: made.id, release: made.release };
    await tellAct(transaction, site, act, { home, at: `/approvals/${made.id}`, more });
    return approvalResource(made, draft);
  });
}

/** @throws ServiceError 404 */
export async function findApproval(store: Store, site: Site, id: number): Promise<Approval> {
  const found = await approvalById(store, site, id);
  if (!found) throw new ServiceError('no-such-approval', { site: site.key, approval: id });
  return found;
}

export interface DecisionRequest {
  readonly decision: Decision;
  readonly note: string;
}

/**
 * Approves what somebody else asked for, or declines it. It takes the rights to publish and to edit: a pipeline publishes, and
 * looks at nothing.
 *
 * @throws ServiceError 403, 404, 409 where it is one’s own or over
 */
export async function decideApproval(
  tools: ApprovalTools,
  key: string,
  id: number,
  request: DecisionRequest,
  { store, actor, access }: ActingWithin,
): Promise<ApprovalResource> {
  return withSiteLock(store, key, async (transaction, site) => {
    assertMay(access, site, 'edit');
    return decide(tools, transaction, site, { id, ...request, by: actor, login: actor });
  });
}

export interface Decided extends DecisionRequest {
  readonly id: number;
  /** As the trail names whoever decides. */
  readonly by: string;
  /** Undefined for somebody with a link. */
  readonly login: string | undefined;
}

/** Within the lock of the site. @throws ServiceError 404, 409 */
export async function decide(
  { sets, home }: ApprovalTools,
  store: Store,
  site: Site,
  { id, decision, note, by, login }: Decided,
): Promise<ApprovalResource> {
  const approval = await findApproval(store, site, id);
  const draft = await draftDigest(sets, store, site);
  const state = approvalState(approval, draft);
  const whyNot = whyNotToDecide(approval, state, login);
  if (whyNot === 'own') throw new ServiceError('approval-own', {});
  if (whyNot === 'over') throw new ServiceError('approval-over', { state });
  await saveDecision(store, id, { decision, by, note });
  audit(store, site, by, 'approval', () =>
    say(decision === 'approved' ? APPROVAL_TEXTS.approved : APPROVAL_TEXTS.declined, {
      message: approval.message,
      note: note || 'none',
    }),
  );
  await store.flush();
  await tellDecision(store, site, approval, { by, decision, note, home });
  return approvalResource(await findApproval(store, site, id), draft);
}

async function tellDecision(
  store: Store,
  site: Site,
  { id, requestedBy: asker, message }: Approval,
  {
    home,
    ...decided
  }: Pick<Extract<Act, { kind: 'decided' }>, 'by' | 'decision' | 'note'> & { readonly home: Home },
): Promise<void> {
  const act: Act = { kind: 'decided', asker, message, ...decided };
  await tellAct(store, site, act, { home, at: `/approvals/${id}`, more: { approval: id } });
}

/** Takes a request back: whoever asked, or somebody who may publish. @throws ServiceError 403, 404, 409 */
export async function withdrawApproval(
  { sets, home }: ApprovalTools,
  key: string,
  id: number,
  { store, actor, access }: ActingWithin,
): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const approval = await findApproval(transaction, site, id);
    if (approval.requestedBy !== actor) assertMay(access, site, 'publish');
    const state = approvalState(approval, await draftDigest(sets, transaction, site));
    if (whyNotToDecide(approval, state, undefined)) throw new ServiceError('approval-over', { state });
    await saveDecision(transaction, id, { decision: 'withdrawn', by: actor, note: '' });
    audit(transaction, site, actor, 'approval', () =>
      say(APPROVAL_TEXTS.withdrew, { message: approval.message }),
    );
    await transaction.flush();
    const decided = { by: actor, decision: 'withdrawn', note: '', home } as const;
    await tellDecision(transaction, site, approval, decided);
  });
}
