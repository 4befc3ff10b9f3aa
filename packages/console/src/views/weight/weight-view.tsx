import type { VisitRoundResource, WeightResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Drama, Scale, Square } from 'lucide-react';
import { weightQuery } from '../../api/visits';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { WEIGHT } from '../../texts/weight';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { RoundLine } from '../visits/round-line';
import { Section } from '../visits/section';
import { coloursOf } from '../visits/snippet-colours';
import { useRound } from '../visits/use-round';
import { BudgetForm } from './budget-form';
import { PageWeight } from './page-weight';
import { WeightChart } from './weight-chart';
import { timeWords } from '../../ui/time';

function isWeighing(round: VisitRoundResource): boolean {
  return round.isWeighing;
}

/** What each snippet costs visitors, page by page, held against the budget. */
export function WeightView() {
  const site = useSiteKey();
  const { rounds, shown, isUnderWay, isLoading, error, start, cancel } = useRound(
    site,
    undefined,
    isWeighing,
  );
  const isWeighed = rounds.some(({ state }) => state === 'done');
  const weight = useQuery({ ...weightQuery(site), enabled: isWeighed });
  const begin = (draft: boolean): void => void start({ weigh: true, draft });
  const buttons = (
    <div className="flex flex-wrap gap-2">
      <Button look="primary" needs="edit" onClick={() => begin(false)}>
        <Scale className="size-4" aria-hidden /> {weight.data ? WEIGHT.again : WEIGHT.start}
      </Button>
      <Button onClick={() => begin(true)}>
        <Drama className="size-4" aria-hidden /> {WEIGHT.draft}
      </Button>
    </div>
  );
  return (
    <div className="max-w-5xl space-y-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{WEIGHT.title}</h1>
          <p className="max-w-2xl text-sm text-muted">{WEIGHT.lead}</p>
        </div>
        {weight.data && !isUnderWay && buttons}
        {isUnderWay && (
          <Button onClick={() => void cancel()}>
            <Square className="size-3.5" aria-hidden /> {VISITS.stop}
          </Button>
        )}
      </div>
      {error && <Failure error={error} />}
      {shown && shown.state !== 'done' && <RoundLine round={shown} />}
      {(isLoading || weight.isLoading) && <Loading />}
      {weight.isError && <Failure error={weight.error} onRetry={() => void weight.refetch()} />}
      {!isLoading && !isWeighed && !isUnderWay && (
        <Empty title={WEIGHT.emptyTitle} action={<div className="flex justify-center">{buttons}</div>}>
          {WEIGHT.empty}
        </Empty>
      )}
      {weight.data ? <Result site={site} weight={weight.data} /> : <BudgetForm site={site} />}
    </div>
  );
}

function Result({ site, weight }: { site: string; weight: WeightResource }) {
  const { host, release, isRehearsal, endedAt, pages, failed, budgetKb } = weight;
  const when = endedAt === null ? '' : timeWords(endedAt);
  const colours = coloursOf(pages.flatMap(({ snippets }) => snippets.map(({ snippet }) => snippet)));
  return (
    <>
      <p className="text-[13px] text-muted">
        {isRehearsal
          ? say(WEIGHT.measuredDraft, { host, when })
          : say(WEIGHT.measured, { host, release: release ?? 0, when })}
      </p>
      {failed.map(({ path, device }) => (
        <p
          key={`${device} ${path}`}
          role="alert"
          className="rounded-lg bg-danger-soft p-3 text-sm text-danger"
        >
          {say(WEIGHT.failed, { path })}
        </p>
      ))}
      {pages.length > 0 && (
        <Section title={WEIGHT.chart} lead={WEIGHT.chartLead}>
          <WeightChart pages={pages} budgetKb={budgetKb} colours={colours} />
        </Section>
      )}
      <BudgetForm site={site} />
      {pages.map((page) => (
        <PageWeight key={`${page.device} ${page.path}`} site={site} page={page} colours={colours} />
      ))}
      {pages.length > 0 && (
        <dl className="grid gap-x-3 gap-y-1 text-[13px] text-muted sm:grid-cols-[auto_1fr]">
          {WEIGHT.meanings.map(([name, meaning]) => (
            <div key={name} className="contents">
              <dt className="font-medium">{name}</dt>
              <dd>{meaning}</dd>
            </div>
          ))}
        </dl>
      )}
    </>
  );
}
