import type { VisitRoundResource } from '@pragmatica/contract';
import { Progress } from 'radix-ui';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';

/** How far a round is, or how it ended. */
export function RoundLine({ round }: { round: VisitRoundResource }) {
  const { state, done, planned, browser, host, release, isRehearsal, problem } = round;
  const isUnderWay = state === 'waiting' || state === 'running';
  const ended = { done, browser: browser ?? VISITS.unknown, host };
  return (
    <div className="space-y-1.5">
      {isUnderWay && (
        <Progress.Root
          value={done}
          max={Math.max(1, planned)}
          aria-label={VISITS.visits}
          className="h-1.5 overflow-hidden rounded-full bg-line"
        >
          <Progress.Indicator
            className="h-full rounded-full bg-primary transition-[width]"
            style={{ width: `${planned === 0 ? 0 : (100 * done) / planned}%` }}
          />
        </Progress.Root>
      )}
      <p role="status" className="text-[13px] text-muted">
        {state === 'waiting'
          ? VISITS.waiting
          : state === 'running'
            ? planned === 0
              ? VISITS.planning
              : say(VISITS.running, { done, planned })
            : state === 'cancelled'
              ? say(VISITS.cancelled, { done, planned })
              : state === 'failed'
                ? VISITS.failed
                : isRehearsal
                  ? say(VISITS.endedDraft, ended)
                  : say(VISITS.ended, { ...ended, release: release ?? 0 })}
      </p>
      {problem !== null && (
        <p role="alert" className="rounded-lg bg-danger-soft p-3 text-sm text-danger">
          {problem}
        </p>
      )}
    </div>
  );
}
