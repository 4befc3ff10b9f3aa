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

/** The newest survey of a site, watched as long as it is under way, whoever started it. */
export function useSurvey(site: string): SurveyControl {
  const client = useQueryClient();
  const list = useInfiniteQuery(surveysQuery(site));
  const [seen, setSeen] = useState<SurveyResource>();
  const [error, setError] = useState<Error>();
  const listed = list.data?.pages[0]?.items[0];
  const newest = seen && (!listed || seen.number >= listed.number) ? seen : listed;
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
