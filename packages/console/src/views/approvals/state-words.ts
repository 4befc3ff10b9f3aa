import type { ApprovalResource } from '@pragmatica/contract';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';

/** Where a request stands, in a sentence. */
export function stateWords({ state, decidedBy, published }: ApprovalResource): string {
  const by = decidedBy ?? '';
  switch (state) {
    case 'open':
      return APPROVALS.isOpen;
    case 'approved':
      return say(APPROVALS.isApproved, { by });
    case 'declined':
      return say(APPROVALS.isDeclined, { by });
    case 'withdrawn':
      return say(APPROVALS.isWithdrawn, { by });
    case 'void':
      return APPROVALS.isVoid;
    case 'published':
      return say(APPROVALS.isPublished, { by, release: published ?? 0 });
  }
}
