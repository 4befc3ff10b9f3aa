import { FIRST_LOOK_PAGES } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { hasFailed } from '../../api/failed';
import { firstLookQuery } from '../../api/sites';
import { START } from '../../texts/start';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Failure, Loading } from '../../ui/states';
import { useSurvey } from '../survey/use-survey';

/** What a small survey saw of a site, while it goes on and when it is over. */
export function FirstLook({ site }: { site: string }) {
  const { newest, isUnderWay, isLoading, error, start, cancel } = useSurvey(site);
  const again = (): void => void start({ limit: FIRST_LOOK_PAGES, side: 'public' });
  return (
    <section
      aria-label={START.lookTitle}
      className="rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
    >
      <h2>{START.lookTitle}</h2>
      <div className="mt-2" aria-live="polite">
        {isLoading && <Loading lines={3} label={START.reading} />}
        {isUnderWay && newest && (
          <p className="flex flex-wrap items-center gap-3">
            <progress
              className="h-1.5 w-40 accent-(--color-primary)"
              value={newest.visited}
              max={Math.max(newest.found, 1)}
            />
            {say(START.progress, { visited: newest.visited, found: newest.found })}
            <Button size="small" look="quiet" onClick={() => void cancel()}>
              {START.stop}
            </Button>
          </p>
        )}
        {!isUnderWay && newest?.state === 'done' && <Lines site={site} survey={newest.number} />}
        {!isUnderWay && newest && newest.state !== 'done' && (
          <p>
            {newest.problem ?? START.stopped}{' '}
            <Button size="small" onClick={again}>
              {START.again}
            </Button>
          </p>
        )}
        {!isLoading && !newest && (
          <p>
            {START.notYet}{' '}
            <Button size="small" onClick={again}>
              {START.look}
            </Button>
          </p>
        )}
        {error && <Failure error={error} onRetry={again} />}
      </div>
    </section>
  );
}

function Lines({ site, survey }: { site: string; survey: number }) {
  const look = useQuery(firstLookQuery(site, survey));
  if (hasFailed(look)) return <Failure error={look.error} onRetry={() => void look.refetch()} />;
  if (!look.data) return <Loading lines={3} label={START.reading} />;
  return (
    <ul className="list-disc space-y-1 pl-5">
      {look.data.lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}
