import type { SurveyInput, SurveyResource } from '@pragmatica/contract';
import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { cancelSurvey, startSurvey, surveysQuery, watchSurvey } from '../../api/surveys';

export interface SurveyControl {
  /** The newest one, whatever its state; undefined where there is none, or it is not known yet. */
  readonly newest: SurveyResource | undefined;
  readonly isUnderWay: boolean;
  readonly isLoading: boolean;
  readonly error: Error | undefined;
  readonly start: (options: SurveyInput) => Promise<boolean>;
  readonly cancel: () => Promise<void>;
}

export function isOpen(survey: SurveyResource | undefined): boolean {
  return survey?.state === 'waiting' || survey?.state === 'running';
}

/** Of those that are under way the one that goes first; otherwise the newest of what visitors get, or of any. */
function shownOf(surveys: readonly SurveyResource[]): SurveyResource | undefined {
  return surveys.findLast(isOpen) ?? surveys.find(({ side }) => side === 'public') ?? surveys[0];
}

/** The newest survey of a site, watched as long as it is under way, whoever started it. */
export function useSurvey(site: string): SurveyControl {
  const client = useQueryClient();
  const list = useInfiniteQuery(surveysQuery(site));
  const [seen, setSeen] = useState<SurveyResource>();
  const [error, setError] = useState<Error>();
  const listed = shownOf(list.data?.pages[0]?.items ?? []);
  const newest = seen && (!listed || seen.number === listed.number || isOpen(seen)) ? seen : listed;
  const watched = isOpen(newest) ? newest?.number : undefined;
  useEffect(() => {
    if (watched === undefined) return undefined;
    const abort = new AbortController();
    const watch = async (): Promise<void> => {
      try {
        for await (const { survey } of watchSurvey(site, watched, abort.signal)) setSeen(survey);
        await client.invalidateQueries({ queryKey: ['site', site] });
      } catch (failure) {
        if (!abort.signal.aborted) setError(failure as Error);
      }
    };
    void watch();
    return () => abort.abort();
  }, [client, site, watched]);
  const attempt = async (work: () => Promise<SurveyResource>): Promise<boolean> => {
    setError(undefined);
    try {
      setSeen(await work());
      return true;
    } catch (failure) {
      setError(failure as Error);
      return false;
    } finally {
      await list.refetch();
    }
  };
  return {
    newest,
    isUnderWay: isOpen(newest),
    isLoading: list.isPending,
    error: error ?? list.error ?? undefined,
    start: (options) => attempt(() => startSurvey(site, options)),
    cancel: async () => {
      if (newest) await attempt(() => cancelSurvey(site, newest.number));
    },
  };
}
