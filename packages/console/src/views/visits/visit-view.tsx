import { useQuery } from '@tanstack/react-query';
import { Check, CircleHelp, Download, X } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { hasFailed } from '../../api/failed';
import { harOf, visitQuery, type SeenLoad, type VisitDetail } from '../../api/visits';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { Button } from '../../ui/button';
import { saveFile } from '../../ui/save-file';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { ownerName } from './owner-name';
import { CauseLines } from './problem-list';
import { RanOrder } from './ran-order';
import { ReportList } from './report-list';
import { RequestTimeline } from './request-timeline';
import { Mark } from './rungs-table';
import { fileOf } from './screen-section';
import { ScreenshotView } from './screenshot-view';
import { Section } from './section';
import { snippetColours } from './snippet-colours';

/** All that one visit saw. */
export function VisitView() {
  const site = useSiteKey();
  const params = useParams();
  const round = Number(params['round']);
  const number = Number(params['visit']);
  const visit = useQuery(visitQuery(site, round, number));
  const [chosen, setChosen] = useState<number>();
  if (visit.isPending) return <Loading />;
  if (hasFailed(visit)) return <Failure error={visit.error} onRetry={() => void visit.refetch()} />;
  const { data } = visit;
  const { loads } = data;
  const shown = Math.min(chosen ?? loads.length - 1, loads.length - 1);
  const load = loads[shown];
  return (
    <div className="max-w-5xl space-y-4">
      <div>
        <Link to={`/sites/${site}/check/browser/${round}`} className="text-sm text-primary hover:underline">
          {VISITS.back}
        </Link>
        <h1>{data.visit.title}</h1>
        <p className="text-sm text-muted">
          <span className="font-mono text-xs">{data.visit.path}</span> · {data.browser} · {data.window.width}{' '}
          × {data.window.height}
        </p>
      </div>
      <Steps steps={data.steps} />
      {loads.length > 1 && (
        <label className="flex items-center gap-2 text-sm text-muted">
          {VISITS.pageLoad}
          <select
            className={cn(inputStyle, 'w-72')}
            value={shown}
            onChange={(event) => setChosen(Number(event.target.value))}
          >
            {loads.map((one, index) => (
              <option key={index} value={index}>
                {say(VISITS.loadOption, { number: index + 1, path: new URL(one.finalUrl).pathname })}
              </option>
            ))}
          </select>
        </label>
      )}
      {load && <LoadView site={site} detail={data} load={load} />}
    </div>
  );
}

function Steps({ steps }: { steps: VisitDetail['steps'] }) {
  return (
    <ol aria-label={VISITS.steps} className="flex flex-wrap gap-2 text-[13px]">
      {steps.map(({ words, isDone, note }, index) => (
        <li
          key={index}
          className={cn(
            'flex items-center gap-1.5 rounded-full border border-line bg-surface px-2.5 py-1',
            isDone === false && 'border-danger/40 bg-danger-soft text-danger',
          )}
        >
          {isDone === true ? (
            <Check className="size-3.5 text-good" aria-hidden />
          ) : isDone === false ? (
            <X className="size-3.5" role="img" aria-label={VISITS.couldNot} />
          ) : (
            <CircleHelp className="size-3.5 text-muted" aria-hidden />
          )}
          {words}
          {note !== null && <span className="text-muted">{note}</span>}
        </li>
      ))}
    </ol>
  );
}

function LoadView({ site, detail, load }: { site: string; detail: VisitDetail; load: SeenLoad }) {
  const { round, visit } = detail;
  const names = new Map((load.judged?.snippets ?? []).map(({ snippet, name }) => [snippet, name]));
  const colours = snippetColours(load);
  const save = async (): Promise<void> => {
    const har = await harOf(site, round, visit.number);
    saveFile(`visit-${round}-${visit.number}.har`, har, 'application/json');
  };
  return (
    <div className="space-y-5">
      <div className="grid gap-5 lg:grid-cols-2">
        <Section title={VISITS.screenshot}>
          <ScreenshotView
            site={site}
            round={round}
            visit={visit.number}
            load={load}
            names={names}
            colours={colours}
          />
        </Section>
        <Section title={VISITS.snippets}>
          <SnippetRungs load={load} />
        </Section>
      </div>
      <Section title={VISITS.requestsTitle}>
        <div className="mb-3 flex justify-end">
          <Button size="small" onClick={() => void save()}>
            <Download className="size-3.5" aria-hidden /> {VISITS.har}
          </Button>
        </div>
        <RequestTimeline load={load} names={names} colours={colours} />
      </Section>
      <RanOrder ran={load.judged?.ran ?? []} colours={colours} />
      <ReportList reports={load.judged?.reports ?? []} colours={colours} />
      {load.exceptions.length > 0 && (
        <Section title={VISITS.errors}>
          <ul className="space-y-1.5 text-sm">
            {load.exceptions.map(({ message, at, owner }, index) => (
              <li key={index}>
                <p className="text-danger">{message}</p>
                <p className="text-[13px] text-muted">
                  {ownerName(owner, names)} · {say(VISITS.at, { file: fileOf(at.url), line: at.line + 1 })}
                </p>
              </li>
            ))}
          </ul>
        </Section>
      )}
      {load.console.some(({ level }) => level !== 'info') && (
        <Section title={VISITS.console}>
          <ul className="space-y-1 font-mono text-xs break-words">
            {load.console
              .filter(({ level }) => level !== 'info')
              .map(({ level, text }, index) => (
                <li key={index} className={level === 'error' ? 'text-danger' : 'text-signal'}>
                  {text}
                </li>
              ))}
          </ul>
        </Section>
      )}
      {load.stored.length > 0 && (
        <Section title={VISITS.stored}>
          <ul className="space-y-0.5 text-sm">
            {load.stored.map(({ where, key, atMs, owner }) => (
              <li key={`${where} ${key} ${atMs}`}>
                <span className="font-mono text-xs">{key}</span>{' '}
                <span className="text-muted">
                  {where}, {ownerName(owner, names)}
                </span>
              </li>
            ))}
          </ul>
        </Section>
      )}
    </div>
  );
}

function SnippetRungs({ load }: { load: SeenLoad }) {
  const snippets = load.judged?.snippets ?? [];
  const running = snippets.filter(({ expected }) => expected !== 'left-out');
  const out = snippets.filter(({ expected }) => expected === 'left-out');
  return (
    <ul className="space-y-2 text-sm">
      {running.map(({ snippet, name, rungs, expected, because }) => {
        const failed = rungs.find(({ state }) => state === 'failed');
        return (
          <li key={snippet}>
            <div className="flex items-center gap-1">
              <span className="mr-auto font-medium">{name}</span>
              {rungs.map(({ rung, state }) => (
                <span key={rung} className="inline-flex w-6 justify-center">
                  {state === 'waiting' ? '·' : <Mark state={state} />}
                </span>
              ))}
            </div>
            {expected === 'waits' && <p className="text-[13px] text-signal">{because}</p>}
            {failed?.cause && (
              <div className="mt-1 space-y-1 rounded-lg bg-danger-soft/60 p-2.5">
                <p>{failed.message}</p>
                <CauseLines cause={failed.cause} />
              </div>
            )}
          </li>
        );
      })}
      {out.length > 0 && (
        <li className="border-t border-line pt-2 text-[13px] text-muted">
          {VISITS.leftOut}: {out.map(({ name }) => name).join(', ')}
        </li>
      )}
    </ul>
  );
}
