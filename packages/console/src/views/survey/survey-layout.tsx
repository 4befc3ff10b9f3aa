import { ApiError, type SurveyResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Radar, Square } from 'lucide-react';
import { Progress } from 'radix-ui';
import { useState } from 'react';
import { Outlet } from 'react-router';
import { latestSurveyQuery } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { SURVEY_TABS } from '../../layout/site-sections';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { TabLinks } from '../../ui/tab-links';
import { Time } from '../../ui/time';
import { StartDialog } from './start-dialog';
import { isOpen, useSurvey } from './use-survey';

/** The real site: how far the survey is, and what it saw. */
export function SurveyLayout() {
  const site = useSiteKey();
  const control = useSurvey(site);
  const latest = useQuery(latestSurveyQuery(site));
  const [isStarting, setStarting] = useState(false);
  const { newest, isUnderWay } = control;
  const hasNone = latest.error instanceof ApiError && latest.error.status === 404;
  const startButton = (
    <Button look="primary" needs="edit" onClick={() => setStarting(true)}>
      <Radar className="size-4" aria-hidden /> {newest ? SURVEY.again : SURVEY.start}
    </Button>
  );
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{SURVEY.title}</h1>
          <p className="text-sm text-muted">{SURVEY.intro}</p>
        </div>
        {isUnderWay ? (
          <Button onClick={() => void control.cancel()}>
            <Square className="size-3.5" aria-hidden /> {SURVEY.cancel}
          </Button>
        ) : (
          newest && startButton
        )}
      </div>
      {newest && <StateLine survey={newest} />}
      {control.error && <Failure error={control.error} />}
      {(control.isLoading || latest.isPending) && <Loading />}
      {hasNone && !isUnderWay && !newest && !control.isLoading && (
        <Empty title={SURVEY.noneTitle} action={startButton}>
          {SURVEY.noneText}
        </Empty>
      )}
      {latest.isError && !hasNone && <Failure error={latest.error} onRetry={() => void latest.refetch()} />}
      {latest.data && (
        <>
          <TabLinks label={SURVEY.tabs} tabs={SURVEY_TABS} />
          <Outlet />
        </>
      )}
      <StartDialog site={site} isOpen={isStarting} onOpenChange={setStarting} start={control.start} />
    </div>
  );
}

/** What waits longer than this waits for a worker that is not there. */
const PATIENCE_MS = 8_000;

function StateLine({ survey }: { survey: SurveyResource }) {
  const { number, visited, failed, state, notes } = survey;
  const host = survey.side === 'origin' ? say(SURVEY.hostOrigin, { host: survey.host }) : survey.host;
  if (isOpen(survey)) return <ProgressLine survey={survey} />;
  if (state === 'failed')
    return (
      <div role="alert" className="rounded-lg border border-danger/40 bg-danger-soft p-4 text-sm">
        <p className="font-semibold">{SURVEY.failedTitle}</p>
        <p>{survey.problem}</p>
      </div>
    );
  return (
    <div className="space-y-1 text-[13px] text-muted">
      <p role="status">
        {state === 'cancelled' ? SURVEY.cancelled : say(SURVEY.doneLine, { number, host, visited, failed })}{' '}
        <Time at={survey.endedAt ?? survey.createdAt} />
      </p>
      {notes.map((note) => (
        <p key={note} className="text-signal">
          {note}
        </p>
      ))}
    </div>
  );
}

function ProgressLine({ survey: { state, visited, found, host, createdAt } }: { survey: SurveyResource }) {
  const isStuck = state === 'waiting' && Date.now() - Date.parse(createdAt) > PATIENCE_MS;
  return (
    <div className="space-y-1.5">
      <Progress.Root
        value={visited}
        max={Math.max(1, found)}
        aria-label={SURVEY.progressLabel}
        className="h-1.5 overflow-hidden rounded-full bg-line"
      >
        <Progress.Indicator
          className="h-full rounded-full bg-primary transition-[width]"
          style={{ width: `${found === 0 ? 0 : (100 * visited) / found}%` }}
        />
      </Progress.Root>
      <p role="status" className="text-[13px] text-muted">
        {state === 'waiting' ? SURVEY.waiting : say(SURVEY.runningAt, { visited, found, host })}
        {isStuck && ` ${SURVEY.workerHint}`}
      </p>
    </div>
  );
}
