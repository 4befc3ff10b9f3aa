import type { WhyAnswerResource } from '@pragmatica/contract';
import { Check, CircleCheck, CircleHelp, CircleX, Minus, X } from 'lucide-react';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';
import { CauseLines } from './problem-list';

type Step = WhyAnswerResource['steps'][number];

/** The answer as a ladder: how far it comes, and what is the matter where it stops. */
export function WhyAnswer({ answer }: { answer: WhyAnswerResource }) {
  const { sentence, isWell, steps, cause, untilWords, hints, question } = answer;
  const isOpen = isWell === null;
  return (
    <section aria-label={VISITS.answer} className="rounded-xl border border-line bg-surface">
      <header className="flex gap-3 border-b border-line p-4">
        {isOpen ? (
          <CircleHelp className="size-6 shrink-0 text-signal" aria-hidden />
        ) : isWell ? (
          <CircleCheck className="size-6 shrink-0 text-good" aria-hidden />
        ) : (
          <CircleX className="size-6 shrink-0 text-danger" aria-hidden />
        )}
        <div>
          {!isOpen && <h2 className="text-lg leading-snug">{sentence}</h2>}
          <p className="text-[13px] text-muted">{question}</p>
        </div>
      </header>
      <ol className="p-4">
        {steps.map((step, index) => (
          <StepLine key={step.step} step={step} isLast={index === steps.length - 1} />
        ))}
      </ol>
      {cause && (
        <div className="space-y-1 border-t border-line p-4 text-sm">
          <h3 className="text-sm">{VISITS.whatToDo}</h3>
          <CauseLines cause={cause} />
        </div>
      )}
      {untilWords !== null && (
        <p className="border-t border-line px-4 py-3 text-[13px] text-muted">{untilWords}</p>
      )}
      {hints.length > 0 && (
        <div className="space-y-1 border-t border-line p-4 text-[13px] text-muted">
          {hints.map((hint) => (
            <p key={hint}>{hint}</p>
          ))}
        </div>
      )}
    </section>
  );
}

const SIGNS: Record<
  Step['state'],
  { readonly icon: typeof Check; readonly look: string; readonly label: string }
> = {
  passed: { icon: Check, look: 'bg-primary-soft text-good', label: VISITS.stepPassed },
  failed: { icon: X, look: 'bg-danger text-paper', label: VISITS.stepFailed },
  open: { icon: CircleHelp, look: 'bg-signal-soft text-signal', label: VISITS.stepOpen },
  none: { icon: Minus, look: 'bg-line/50 text-muted', label: VISITS.none },
  'not-reached': { icon: Minus, look: 'bg-line/50 text-line-strong', label: VISITS.notReached },
};

function StepLine({ step: { title, state, message, notes = [] }, isLast }: { step: Step; isLast: boolean }) {
  const { icon: Icon, look, label } = SIGNS[state];
  const isQuiet = state === 'none' || state === 'not-reached';
  return (
    <li className="relative flex gap-3 pb-3 last:pb-0">
      {!isLast && <span className="absolute top-6 bottom-0 left-3 w-px bg-line" aria-hidden />}
      <span className={cn('z-10 mt-0.5 flex size-6 shrink-0 items-center justify-center rounded-full', look)}>
        <Icon className="size-3.5" role="img" aria-label={label} />
      </span>
      <div className={cn('text-sm', isQuiet && 'text-muted')}>
        <span className="font-medium">{title}</span> <span>{message}</span>
        {notes.map((note) => (
          <p key={note} className="text-[13px] text-muted">
            {note}
          </p>
        ))}
      </div>
    </li>
  );
}
