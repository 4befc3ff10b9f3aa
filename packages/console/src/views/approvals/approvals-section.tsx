import type { ApprovalResource } from '@pragmatica/contract';
import { approvalStateWords } from '@pragmatica/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { approvalsQuery } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { MoreButton } from '../../ui/more-button';
import { Section } from '../../ui/section';
import { Time } from '../../ui/time';

/** The requests of a site; nothing where none was ever made. */
export function ApprovalsSection({ site }: { site: string }) {
  const approvals = useInfiniteQuery(approvalsQuery(site));
  const items = approvals.data?.pages.flatMap((page) => page.items) ?? [];
  if (items.length === 0) return null;
  return (
    <Section title={APPROVALS.title}>
      <ul className="divide-y divide-line">
        {items.map((approval) => (
          <ApprovalRow key={approval.id} approval={approval} />
        ))}
      </ul>
      <MoreButton list={approvals}>{APPROVALS.earlier}</MoreButton>
    </Section>
  );
}

function ApprovalRow({
  approval: { id, state, message, requestedBy, requestedAt },
}: {
  approval: ApprovalResource;
}) {
  const isWaiting = state === 'open' || state === 'approved';
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
      <div className="min-w-48 flex-1">
        <p className="font-medium [overflow-wrap:anywhere]">{message}</p>
        <p className="text-[13px] text-muted">
          {say(APPROVALS.askedBy, { by: requestedBy })}, <Time at={requestedAt} />
        </p>
      </div>
      <span
        className={cn(
          'rounded-full px-2 py-0.5 text-xs font-medium',
          isWaiting ? 'bg-primary-soft text-primary' : 'bg-paper text-muted',
        )}
      >
        {approvalStateWords(state)}
      </span>
      <Button asChild size="small">
        <Link to={`../approvals/${id}`} aria-label={say(APPROVALS.lookAtOf, { message })}>
          {APPROVALS.lookAt}
        </Link>
      </Button>
    </li>
  );
}
