import type {
  EndpointCall,
  EndpointResult,
  Endpoints,
  SurveyInput,
  SurveyResource,
} from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api } from './client';

/** Hosts that are not public. */
export const accessesQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'access'],
    queryFn: async () => (await api.call('listAccesses', { params: { site } })).data.items,
  });

/** What becomes of pages between the site's own server and visitors. */
export const sidesQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'survey-sides'],
    queryFn: async () => (await api.call('showSides', { params: { site, survey: 'latest' } })).data,
    retry: false,
  });

/** When surveys begin by themselves. */
export const schedulesQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'survey-schedules'],
    queryFn: async () => (await api.call('listSchedules', { params: { site } })).data.items,
  });

/** So many rows come at once. */
const LIMIT = 100;

/** Surveys page by page, the newest first. */
export const surveysQuery = (site: string) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'surveys'],
    queryFn: async ({ pageParam }) =>
      (await api.call('listSurveys', { params: { site }, query: { after: pageParam, limit: 20 } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

/** The survey that the views are of: the newest that came to its end. */
export const latestSurveyQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'surveys', 'latest'],
    queryFn: async () => (await api.call('showSurvey', { params: { site, survey: 'latest' } })).data,
    retry: false,
  });

export type SightingFilter = NonNullable<EndpointCall<Endpoints['listSightings']>['query']>;
export type SightingPage = EndpointResult<Endpoints['listSightings']>;
export type Sighting = SightingPage['items'][number];

export const sightingsQuery = (site: string, filter: SightingFilter) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'sightings', filter],
    queryFn: async ({ pageParam }) =>
      (
        await api.call('listSightings', {
          params: { site, survey: 'latest' },
          query: { ...filter, after: pageParam, limit: LIMIT },
        })
      ).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

export const sightingQuery = (site: string, id: number) =>
  queryOptions({
    queryKey: ['site', site, 'sighting', id],
    queryFn: async () => (await api.call('showSighting', { params: { site, sighting: id } })).data,
  });

/** One sighting in full. */
export type SightingDetailData = EndpointResult<Endpoints['showSighting']>;

export const coverageQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'coverage'],
    queryFn: async () => (await api.call('showCoverage', { params: { site, survey: 'latest' } })).data,
  });

export type PageFilter = NonNullable<EndpointCall<Endpoints['listSurveyPages']>['query']>;
export type SurveyedPage = EndpointResult<Endpoints['listSurveyPages']>['items'][number];

export const surveyPagesQuery = (site: string, filter: PageFilter) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'survey-pages', filter],
    queryFn: async ({ pageParam }) =>
      (
        await api.call('listSurveyPages', {
          params: { site, survey: 'latest' },
          query: { ...filter, after: pageParam, limit: LIMIT },
        })
      ).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

export const surveyPageQuery = (site: string, path: string) =>
  queryOptions({
    queryKey: ['site', site, 'survey-page', path],
    queryFn: async () =>
      (await api.call('showSurveyPage', { params: { site, survey: 'latest' }, query: { path } })).data,
  });

/** Something that stands in a page. */
export type SurveyedItem = EndpointResult<Endpoints['showSurveyPage']>['items'][number];

export const surveyChangesQuery = (site: string, survey: number) =>
  queryOptions({
    queryKey: ['site', site, 'survey-changes', survey],
    queryFn: async () => (await api.call('showSurveyChanges', { params: { site, survey } })).data,
  });

export async function startSurvey(site: string, body: SurveyInput): Promise<SurveyResource> {
  return (await api.call('startSurvey', { params: { site }, body })).data;
}

export async function cancelSurvey(site: string, survey: number): Promise<SurveyResource> {
  return (await api.call('cancelSurvey', { params: { site, survey } })).data;
}

/** How far a survey is, until it is over. */
export function watchSurvey(site: string, survey: number, signal: AbortSignal) {
  return api.stream('watchSurvey', { params: { site, survey } }, signal);
}
