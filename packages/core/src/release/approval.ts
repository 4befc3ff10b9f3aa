import { APPROVAL_STATES } from '../texts/approvals.js';

/** What somebody decided on a request for approval. */
export type Decision = 'approved' | 'declined' | 'withdrawn';

/** A request that somebody else approves a set before visitors get it. */
export interface ApprovalRequest {
  /** SHA-256 of the set that it is about; it is for this set alone. */
  readonly digest: string;
  /** The release that it is about; null for the draft as it was. */
  readonly release: number | null;
  readonly requestedBy: string;
  readonly decision: Decision | null;
  /** The release that it was published as; null while it was not. */
  readonly published: number | null;
}

/** Where a request stands. `void`: the draft has changed since, so what was shown is not what would be published. */
export type ApprovalState = 'open' | 'approved' | 'declined' | 'withdrawn' | 'void' | 'published';

/** Where a request stands, beside the draft as it is now. @param draft - digest of the draft */
export function approvalState(
  {
    digest,
    release,
    decision,
    published,
  }: Pick<ApprovalRequest, 'digest' | 'release' | 'decision' | 'published'>,
  draft: string,
): ApprovalState {
  if (published !== null) return 'published';
  if (decision === 'declined' || decision === 'withdrawn') return decision;
  if (release === null && digest !== draft) return 'void';
  return decision ?? 'open';
}

/** Where a request stands, in a word or two. */
export function approvalStateWords(state: ApprovalState): string {
  return APPROVAL_STATES[state];
}

/** Whether a request lets a set out to visitors: just this set, approved by somebody. */
export function approves(request: Pick<ApprovalRequest, 'digest' | 'decision'>, digest: string): boolean {
  return request.decision === 'approved' && request.digest === digest;
}

/** Why somebody cannot decide on a request. */
export type NotToDecide = 'own' | 'over';

/**
 * Why somebody cannot decide on a request; undefined where they can. Four eyes: never on their own. What was approved can still be
 * declined until it is published.
 *
 * @param who - login; undefined for somebody with a link
 */
export function whyNotToDecide(
  request: Pick<ApprovalRequest, 'requestedBy'>,
  state: ApprovalState,
  who: string | undefined,
): NotToDecide | undefined {
  if (state !== 'open' && state !== 'approved') return 'over';
  return request.requestedBy === who ? 'own' : undefined;
}
