import type {
  EndpointResult,
  Endpoints,
  TroubleEvent,
  TroubleInput,
  VisitRoundInput,
  VisitRoundResource,
  WhyEvent,
  WhyInput,
} from '@pragmatica/contract';
import { queryOptions } from '@tanstack/react-query';
import { api } from './client';

export type RoundReference = 'latest' | number;
export type RoundDetail = EndpointResult<Endpoints['showVisitRound']>;
export type VisitDetail = EndpointResult<Endpoints['showVisit']>;
export type SeenLoad = VisitDetail['loads'][number];

/** Rounds of visits, the newest first. */
export const roundsQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'visit-rounds'],
    queryFn: async () =>
      (await api.call('listVisitRounds', { params: { site }, query: { limit: 50 } })).data.items,
  });

export const roundQuery = (site: string, round: RoundReference) =>
  queryOptions({
    queryKey: ['site', site, 'visit-round', round],
    queryFn: async () => (await api.call('showVisitRound', { params: { site, round } })).data,
    retry: false,
  });

export const visitQuery = (site: string, round: RoundReference, visit: number) =>
  queryOptions({
    queryKey: ['site', site, 'visit', round, visit],
    queryFn: async () => (await api.call('showVisit', { params: { site, round, visit } })).data,
    staleTime: Infinity,
  });

/** What was weighed last. */
export const weightQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'visit-rounds', 'weight'],
    queryFn: async () => (await api.call('showWeight', { params: { site }, query: {} })).data,
  });

/** A picture as an address that an image can show. */
export const screenshotQuery = (site: string, round: number, visit: number, screenshot: number) =>
  queryOptions({
    queryKey: ['site', site, 'screenshot', round, visit, screenshot],
    queryFn: async () => {
      const { data } = await api.call('showScreenshot', { params: { site, round, visit, screenshot } });
      return `data:${data.type};base64,${data.data}`;
    },
    staleTime: Infinity,
  });

export async function startVisits(site: string, body: VisitRoundInput): Promise<VisitRoundResource> {
  return (await api.call('startVisits', { params: { site }, body })).data;
}

export async function cancelVisits(site: string, round: number): Promise<VisitRoundResource> {
  return (await api.call('cancelVisits', { params: { site, round } })).data;
}

export function watchVisits(site: string, round: number, signal: AbortSignal) {
  return api.stream('watchVisits', { params: { site, round } }, signal);
}

export function askWhy(site: string, body: WhyInput, signal: AbortSignal): AsyncIterable<WhyEvent> {
  return api.stream('why', { params: { site }, body }, signal);
}

export function askTrouble(
  site: string,
  body: TroubleInput,
  signal: AbortSignal,
): AsyncIterable<TroubleEvent> {
  return api.stream('findTrouble', { params: { site }, body }, signal);
}

/** The requests of a visit, to be saved as a file. */
export async function harOf(site: string, round: number, visit: number): Promise<string> {
  const { data } = await api.call('exportHar', { params: { site, round, visit } });
  return JSON.stringify(data, null, 1);
}
