import type { VisitRoundInput, VisitRoundResource } from '@pragmatica/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { cancelVisits, roundQuery, roundsQuery, startVisits, watchVisits } from '../../api/visits';

export interface RoundControl {
  readonly rounds: readonly VisitRoundResource[];
  /** The one that is shown, whatever its state. */
  readonly shown: VisitRoundResource | undefined;
  readonly isUnderWay: boolean;
  readonly isLoading: boolean;
  readonly error: Error | undefined;
  readonly start: (input: VisitRoundInput) => Promise<void>;
  readonly cancel: () => Promise<void>;
}

/** A round that sees how things are. */
function isLook({ isQuestion }: VisitRoundResource): boolean {
  return !isQuestion;
}

/** Rounds of a site; the one that is shown is watched for as long as it is under way, whoever started it. */
export function useRound(
  site: string,
  chosen: number | undefined,
  isMeant: (round: VisitRoundResource) => boolean = isLook,
): RoundControl {
  const client = useQueryClient();
  const list = useQuery(roundsQuery(site));
  const [seen, setSeen] = useState<VisitRoundResource>();
  const [error, setError] = useState<Error>();
  const rounds = (list.data ?? []).filter(isMeant);
  const listed = chosen === undefined ? rounds[0] : rounds.find(({ number }) => number === chosen);
  const shown = seen && (!listed || seen.number >= listed.number) && chosen === undefined ? seen : listed;
  const isUnderWay = shown?.state === 'waiting' || shown?.state === 'running';
  const watched = isUnderWay ? shown.number : undefined;
  useEffect(() => {
    if (watched === undefined) return undefined;
    const abort = new AbortController();
    const watch = async (): Promise<void> => {
      try {
        for await (const event of watchVisits(site, watched, abort.signal)) {
          if (event.type === 'progress') setSeen(event.round);
          else await client.invalidateQueries(roundQuery(site, watched));
        }
        await client.invalidateQueries({ queryKey: ['site', site, 'visit-rounds'] });
        await client.invalidateQueries(roundQuery(site, watched));
      } catch (failure) {
        if (!abort.signal.aborted) setError(failure as Error);
      }
    };
    void watch();
    return () => abort.abort();
  }, [client, site, watched]);
  const attempt = async (work: () => Promise<VisitRoundResource>): Promise<void> => {
    setError(undefined);
    try {
      setSeen(await work());
    } catch (failure) {
      setError(failure as Error);
    } finally {
      await list.refetch();
    }
  };
  return {
    rounds,
    shown,
    isUnderWay,
    isLoading: list.isPending,
    error: error ?? list.error ?? undefined,
    start: (input) => attempt(() => startVisits(site, input)),
    cancel: async () => {
      if (shown) await attempt(() => cancelVisits(site, shown.number));
    },
  };
}
