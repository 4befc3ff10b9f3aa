import type { PolicyMode, PolicyResource } from '@pragmatica/contract';
import { Shield } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSetPolicy } from '../../api/policy';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Dialog, DialogActions } from '../../ui/dialog';
import { FormError } from '../../ui/field';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';

interface ModeSectionProps {
  readonly site: string;
  readonly view: PolicyResource;
}

const STATES = { off: POLICY.stateOff, report: POLICY.stateReport, enforce: POLICY.stateEnforce } as const;
const STEPS = ['off', 'report', 'enforce'] as const satisfies readonly PolicyMode[];

/** Where the policy stands on its way from nothing to enforced, and the next step. */
export function ModeSection({ site, view }: ModeSectionProps) {
  const { host, mode, canSend, changed, survey, release } = view;
  const set = useSetPolicy(site, host);
  const toast = useToast();
  const [isAsking, setAsking] = useState(false);
  const go = (next: PolicyMode, title: string, text: string): void => {
    setAsking(false);
    set.run({ mode: next }, () => toast({ tone: 'done', title, text }));
  };
  const start = (): void => go('report', POLICY.startedTitle, POLICY.startedText);
  return (
    <section
      aria-label={POLICY[mode]}
      className="space-y-3 rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
    >
      <ol className="flex flex-wrap gap-2" aria-hidden>
        {STEPS.map((step) => (
          <li
            key={step}
            className={cn(
              'rounded-full border border-line px-3 py-1 text-[13px] text-muted',
              step === mode && 'border-primary bg-primary-soft font-medium text-primary',
            )}
          >
            {POLICY[step]}
          </li>
        ))}
      </ol>
      <p>
        <Shield className="mr-1.5 inline size-4 text-muted" aria-hidden />
        {STATES[mode]}{' '}
        {changed && mode !== 'off' && (
          <span className="text-muted">
            ({say(POLICY.changedBy, { by: changed.by })} <Time at={changed.at} />)
          </span>
        )}
      </p>
      {!canSend && <p className="text-signal">{say(POLICY.notSent, { host })}</p>}
      {!survey && (
        <p className="text-signal">
          {POLICY.noSurvey}{' '}
          <Link className="underline" to={`/sites/${site}/survey`}>
            {POLICY.runSurvey}
          </Link>
        </p>
      )}
      {release === null && <p className="text-muted">{POLICY.noRelease}</p>}
      {canSend && (survey || mode !== 'off') && (
        <div className="flex flex-wrap gap-2">
          {mode === 'off' && (
            <Button look="primary" needs="publish" isBusy={set.isPending} onClick={start}>
              {POLICY.tryIt}
            </Button>
          )}
          {mode === 'report' && (
            <Button look="primary" needs="publish" isBusy={set.isPending} onClick={() => setAsking(true)}>
              {POLICY.enforceIt}
            </Button>
          )}
          {mode === 'enforce' && (
            <Button isBusy={set.isPending} onClick={start}>
              {POLICY.backToTrial}
            </Button>
          )}
          {mode !== 'off' && (
            <Button
              look="quiet"
              isBusy={set.isPending}
              onClick={() => go('off', POLICY.stoppedTitle, POLICY.stateOff)}
            >
              {POLICY.stop}
            </Button>
          )}
        </div>
      )}
      <FormError error={set.error} />
      <Dialog
        title={say(POLICY.sureTitle, { host })}
        description={
          view.reports.length === 0 ? POLICY.sureNone : say(POLICY.sureSome, { kinds: view.reports.length })
        }
        isOpen={isAsking}
        onOpenChange={setAsking}
      >
        <DialogActions leave={POLICY.leave}>
          <Button look="primary" onClick={() => go('enforce', POLICY.enforcedTitle, POLICY.enforcedText)}>
            {POLICY.enforceNow}
          </Button>
        </DialogActions>
      </Dialog>
    </section>
  );
}
