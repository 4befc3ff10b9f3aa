import type { ApprovalDetail } from '@pragmatica/contract';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { APPROVALS } from '../../texts/approvals';
import { say } from '../../texts/say';
import { cn } from '../../ui/cn';
import { Section } from '../../ui/section';
import { CodeDifference } from '../findings/code-difference';

const BYTES_PER_KB = 1_000;

interface ApprovalContentProps {
  readonly detail: ApprovalDetail;
  /** What leads to the visits; nothing for somebody without an account. */
  readonly toRound?: (round: number) => ReactNode;
  readonly toRehearsal?: ReactNode;
}

/** All that somebody looks at before they approve. */
export function ApprovalContent({ detail, toRound, toRehearsal }: ApprovalContentProps) {
  const { changes, code, findings, counts } = detail;
  const others = counts.error + counts.warning + counts.advice - findings.length;
  return (
    <>
      <Section title={APPROVALS.changes} text={APPROVALS.changesText}>
        {changes.length === 0 && <p>{APPROVALS.noChanges}</p>}
        <Changes title={APPROVALS.seen} changes={changes.filter(({ visible }) => visible)} />
        <Changes title={APPROVALS.unseen} changes={changes.filter(({ visible }) => !visible)} />
        {code.map(({ part, before, after }) => (
          <CodeDifference key={part} title={say(APPROVALS.codeOf, { part })} before={before} after={after} />
        ))}
      </Section>
      <Section title={APPROVALS.checks}>
        {findings.length === 0 && (
          <p className="flex items-start gap-2">
            <CircleCheck className="mt-0.5 size-4 shrink-0 text-good" aria-hidden /> {APPROVALS.nothingFound}
          </p>
        )}
        <ul className="space-y-1.5">
          {findings.map(({ severity, title, isNew }) => (
            <li key={`${severity} ${title}`} className="flex items-start gap-2">
              <TriangleAlert
                className={cn('mt-0.5 size-4 shrink-0', severity === 'error' ? 'text-danger' : 'text-signal')}
                aria-label={APPROVALS.severity[severity]}
              />
              <span>
                {title}
                {isNew && (
                  <span className="ml-1.5 rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
                    {APPROVALS.isNew}
                  </span>
                )}
              </span>
            </li>
          ))}
        </ul>
        {others > 0 && <p className="text-muted">{say(APPROVALS.others, { count: others })}</p>}
      </Section>
      <Section title={APPROVALS.tried}>
        <Rehearsal detail={detail} toRound={toRound} toRehearsal={toRehearsal} />
        <Weight weight={detail.weight} />
      </Section>
    </>
  );
}

function Changes({ title, changes }: { title: string; changes: ApprovalDetail['changes'] }) {
  if (changes.length === 0) return null;
  return (
    <div>
      <h3 className="text-sm font-medium">{title}</h3>
      <ul className="mt-1 list-disc space-y-1 pl-5">
        {changes.map(({ message }) => (
          <li key={message}>{message}</li>
        ))}
      </ul>
    </div>
  );
}

function Rehearsal({ detail: { rehearsal }, toRound, toRehearsal }: ApprovalContentProps) {
  if (!rehearsal)
    return (
      <p>
        {APPROVALS.notRehearsed} {toRehearsal}
      </p>
    );
  return (
    <p>
      {rehearsal.isWell ? APPROVALS.rehearsed : APPROVALS.rehearsedBadly} {toRound?.(rehearsal.round)}
    </p>
  );
}

function Weight({ weight }: Pick<ApprovalDetail, 'weight'>) {
  if (!weight) return <p className="text-muted">{APPROVALS.notWeighed}</p>;
  const { bytes, requests, budgetKb, isWithin } = weight;
  const text = isWithin === false ? APPROVALS.overBudget : APPROVALS.inBudget;
  return (
    <p>
      {say(APPROVALS.weight, { kb: Math.round(bytes / BYTES_PER_KB), requests })}{' '}
      {budgetKb !== null && isWithin !== null && say(text, { budget: budgetKb })}
    </p>
  );
}
