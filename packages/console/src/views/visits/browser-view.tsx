import { deliveryOf } from '@pragmatica/core';
import type { VisitRoundResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck, Drama, MonitorSmartphone, Square } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { hasFailed } from '../../api/failed';
import { siteQuery } from '../../api/queries';
import { isPublished } from '../../api/sites';
import { roundQuery } from '../../api/visits';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { PreviewButton } from '../preview/preview-button';
import { VISITS } from '../../texts/visits';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Empty, Failure, Loading } from '../../ui/states';
import { ConsentSection } from './consent-section';
import { ProblemList } from './problem-list';
import { ReportsSection } from './reports-section';
import { RoundLine } from './round-line';
import { RungsTable } from './rungs-table';
import { ScreenSection } from './screen-section';
import { useRound } from './use-round';
import { VisitList } from './visit-list';
import { WeightSection } from './weight-section';
import { timeWords } from '../../ui/time';

/** Sends a browser to the pages, and shows what it found. */
export function BrowserView() {
  const site = useSiteKey();
  const navigate = useNavigate();
  const given = useParams()['round'];
  const control = useRound(site, given === undefined ? undefined : Number(given));
  const { shown, rounds, isUnderWay, isLoading, error } = control;
  const known = useQuery(siteQuery(site)).data?.data;
  const hosts = known?.hosts ?? [];
  const hasRelease = isPublished(known);
  const [chosen, setChosen] = useState<string>();
  const host =
    hosts.find((one) => one.host === chosen) ?? hosts.find(({ environment }) => environment === 'live');
  const begin = (draft: boolean): void => {
    void navigate(`/sites/${site}/check/browser`);
    void control.start({
      ...(host ? { host: host.host, environment: host.environment } : {}),
      draft,
    });
  };
  const buttons = (
    <div className="flex flex-wrap gap-2">
      {hasRelease && (
        <Button look="primary" needs="edit" onClick={() => begin(false)} disabled={isUnderWay}>
          <MonitorSmartphone className="size-4" aria-hidden /> {shown ? VISITS.again : VISITS.start}
        </Button>
      )}
      <Button look={hasRelease ? undefined : 'primary'} onClick={() => begin(true)} disabled={isUnderWay}>
        <Drama className="size-4" aria-hidden /> {VISITS.rehearse}
      </Button>
      <PreviewButton site={site} />
    </div>
  );
  return (
    <div className="max-w-5xl space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{VISITS.tabBrowser}</h1>
          <p className="max-w-2xl text-sm text-muted">{VISITS.lead}</p>
        </div>
        {hosts.length > 1 && host && (
          <select
            aria-label={VISITS.host}
            className={cn(inputStyle, 'w-full sm:w-72')}
            value={host.host}
            disabled={isUnderWay}
            onChange={(event) => setChosen(event.target.value)}
          >
            {hosts.map((one) => (
              <option key={one.host} value={one.host}>
                {say(VISITS.hostAndWay, { host: one.host, way: deliveryOf(one.delivery).name })}
              </option>
            ))}
          </select>
        )}
        {shown && !isUnderWay && buttons}
        {isUnderWay && (
          <Button onClick={() => void control.cancel()}>
            <Square className="size-3.5" aria-hidden /> {VISITS.stop}
          </Button>
        )}
      </div>
      {isLoading && <Loading />}
      {error && <Failure error={error} />}
      {!isLoading && !shown && (
        <Empty title={VISITS.emptyTitle} action={<div className="flex justify-center">{buttons}</div>}>
          {hasRelease ? VISITS.empty : VISITS.emptyUnpublished}
        </Empty>
      )}
      {shown && <RoundLine round={shown} />}
      {shown && <RoundResult site={site} round={shown} />}
      {rounds.length > 1 && shown && (
        <label className="flex flex-wrap items-center gap-2 text-sm text-muted">
          {VISITS.earlier}
          <select
            className={cn(inputStyle, 'w-72')}
            value={shown.number}
            onChange={(event) => void navigate(`/sites/${site}/check/browser/${event.target.value}`)}
          >
            {rounds.map((one) => (
              <option key={one.number} value={one.number}>
                {say(VISITS.roundOption, {
                  number: one.number,
                  when: timeWords(one.createdAt),
                  host: one.host,
                })}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}

function RoundResult({ site, round }: { site: string; round: VisitRoundResource }) {
  const detail = useQuery({ ...roundQuery(site, round.number), enabled: round.done > 0 });
  if (round.done === 0) return null;
  if (detail.isPending) return <Loading />;
  if (hasFailed(detail)) return <Failure error={detail.error} onRetry={() => void detail.refetch()} />;
  const { summary, visits } = detail.data;
  const isOver = round.state === 'done';
  return (
    <div className="space-y-5">
      {isOver && summary.isWell && (
        <p className="flex gap-2 rounded-xl border border-line bg-surface p-4 text-sm text-good">
          <CircleCheck className="size-5 shrink-0" aria-hidden /> {VISITS.well}
        </p>
      )}
      <ProblemList site={site} round={round.number} snippets={summary.snippets} />
      <RungsTable site={site} snippets={summary.snippets} />
      <ScreenSection site={site} round={round.number} summary={summary} />
      <ConsentSection stages={summary.stages} />
      <ReportsSection site={site} reports={summary.reports} />
      <WeightSection site={site} weights={summary.weights} />
      <VisitList site={site} round={round.number} visits={visits} />
    </div>
  );
}
