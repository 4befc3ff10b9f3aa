import { useQuery } from '@tanstack/react-query';
import { CircleCheck } from 'lucide-react';
import { useState } from 'react';
import { trailHeadQuery } from '../../api/activity';
import { ACTIVITY } from '../../texts/activity';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { SecretBox } from '../../ui/secret-box';
import { Section } from '../../ui/section';
import { Failure } from '../../ui/states';
import { Time } from '../../ui/time';
import { useTrailCheck, type CheckedTrail } from './use-trail-check';

const HEAD = /^\d{1,10}:[0-9a-f]{64}$/;

/** Whether anybody has rewritten the trail, and the head by which that can be told later. */
export function TrailCheck() {
  const { isRunning, progress, checked, error, run, stop } = useTrailCheck();
  const [kept, setKept] = useState('');
  const head = useQuery(trailHeadQuery);
  const isWrong = kept.trim() !== '' && !HEAD.test(kept.trim());
  return (
    <Section title={ACTIVITY.checkTitle} text={ACTIVITY.checkLead}>
      <form
        className="flex flex-wrap items-start gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isWrong) void run(kept.trim());
        }}
      >
        <div className="min-w-60 flex-1">
          <Field
            label={ACTIVITY.headKept}
            hint={ACTIVITY.headHint}
            error={isWrong ? ACTIVITY.headWrong : undefined}
            value={kept}
            onChange={(event) => setKept(event.target.value)}
          />
        </div>
        {isRunning ? (
          <Button className="sm:mt-6.5" onClick={stop}>
            {ACTIVITY.stop}
          </Button>
        ) : (
          <Button type="submit" look="primary" className="sm:mt-6.5" disabled={isWrong}>
            {ACTIVITY.check}
          </Button>
        )}
      </form>
      <div className="space-y-3" aria-live="polite">
        {isRunning && progress && <p>{say(ACTIVITY.checking, progress)}</p>}
        {error && <Failure error={error} />}
        {checked && <Checked checked={checked} />}
      </div>
      {head.data && (
        <SecretBox
          title={ACTIVITY.headToday}
          secret={`${head.data.number}:${head.data.hash}`}
          next={ACTIVITY.headCopied}
          note={say(ACTIVITY.headNote, { number: head.data.number })}
        />
      )}
    </Section>
  );
}

function Checked({ checked: { isWhole, links, entries, faults, problems } }: { checked: CheckedTrail }) {
  if (isWhole)
    return (
      <p className="flex items-start gap-2 font-medium">
        <CircleCheck className="mt-0.5 size-4 shrink-0 text-good" aria-hidden />
        <span>
          {say(ACTIVITY.whole, { links })}
          {entries < links && ` ${say(ACTIVITY.kept, { count: links - entries })}`}
        </span>
      </p>
    );
  return (
    <div role="alert" className="space-y-2 rounded-lg border border-danger/40 bg-danger-soft p-3">
      <p className="font-semibold">{say(ACTIVITY.broken, { faults })}</p>
      <p>{ACTIVITY.brokenAdvice}</p>
      <ul className="list-disc space-y-0.5 pl-5">
        {problems.map(({ number, message, at }) => (
          <li key={`${number} ${message}`}>
            {say(ACTIVITY.fault, { number })}
            {at !== null && (
              <>
                , <Time at={at} />
              </>
            )}
            : {message}
          </li>
        ))}
      </ul>
    </div>
  );
}
