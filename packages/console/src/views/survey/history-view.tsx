import type { SurveyResource } from '@pragmatica/contract';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { surveyChangesQuery, surveysQuery } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { cn } from '../../ui/cn';
import { MoreButton } from '../../ui/more-button';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { ScheduleSection } from './schedule-section';

const STATES: Readonly<Record<SurveyResource['state'], string>> = {
  waiting: SURVEY.stateWaiting,
  running: SURVEY.stateRunning,
  done: SURVEY.stateDone,
  cancelled: SURVEY.stateCancelled,
  failed: SURVEY.stateFailed,
};

/** The surveys of a site, and what each found that the one before had not. */
export function HistoryView() {
  const site = useSiteKey();
  const surveys = useInfiniteQuery(surveysQuery(site));
  const all = surveys.data?.pages.flatMap(({ items }) => items) ?? [];
  const newest = all.find(({ state }) => state === 'done')?.number;
  const [chosen, setChosen] = useState<number>();
  const open = chosen ?? newest;
  return (
    <section className="space-y-3">
      <ScheduleSection site={site} />
      {surveys.isPending && <Loading />}
      {surveys.isError && <Failure error={surveys.error} onRetry={() => void surveys.refetch()} />}
      <ol className="divide-y divide-line rounded-xl border border-line bg-surface">
        {all.map((survey) => (
          <li key={survey.number}>
            <button
              type="button"
              disabled={survey.state !== 'done'}
              aria-expanded={survey.state === 'done' ? open === survey.number : undefined}
              onClick={() => setChosen(open === survey.number ? 0 : survey.number)}
              className="flex w-full flex-wrap items-center gap-x-3 px-4 py-2.5 text-left text-sm hover:bg-paper disabled:hover:bg-transparent"
            >
              <ChevronRight
                className={cn(
                  'size-4 text-muted transition-transform',
                  open === survey.number && 'rotate-90',
                  survey.state !== 'done' && 'invisible',
                )}
                aria-hidden
              />
              <span className="w-8 font-medium tabular-nums">{survey.number}</span>
              <Time at={survey.createdAt} className="w-40 text-muted" />
              <span className="min-w-40 flex-1">
                {survey.side === 'origin' ? `${survey.host} (${SURVEY.originSide})` : survey.host}
              </span>
              <span className="text-muted">{STATES[survey.state]}</span>
              <span className="w-24 text-right text-muted tabular-nums">
                {say(SURVEY.pages, { count: survey.visited })}
              </span>
            </button>
            {open === survey.number && <Changes site={site} survey={survey.number} />}
          </li>
        ))}
      </ol>
      <MoreButton list={surveys}>{SURVEY.earlier}</MoreButton>
    </section>
  );
}

function Changes({ site, survey }: { site: string; survey: number }) {
  const changes = useQuery(surveyChangesQuery(site, survey));
  return (
    <div className="px-4 pb-3 text-sm sm:pl-19">
      {changes.isPending && <Loading lines={1} />}
      {changes.isError && <Failure error={changes.error} onRetry={() => void changes.refetch()} />}
      {changes.data?.from === null && <p className="text-muted">{SURVEY.noChangesBefore}</p>}
      {changes.data && changes.data.from !== null && (
        <>
          <h3 className="font-medium">{say(SURVEY.changesTitle, { number: changes.data.from })}</h3>
          <ul className="mt-1 list-disc space-y-0.5 pl-5">
            {changes.data.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
