import type { PlanQuery } from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api } from './client';

/** Key and fetcher of each resource, defined together, once. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => (await api.call('showSession', {})).data,
  retry: false,
});

/** The site with its entity tag, which changing it must show. */
export const siteQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'self'],
    queryFn: async () => api.call('showSite', { params: { site } }),
  });

export const pagesQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'pages'],
    queryFn: async () => (await api.call('listPages', { params: { site }, query: {} })).data,
    staleTime: 60_000,
  });

/** What the site's pages are made of; the checks put parts into them. */
export const skeletonsQuery = (site: string) =>
  queryOptions({
    queryKey: ['skeletons', site],
    queryFn: async () => (await api.call('listSkeletons', { params: { site } })).data.items,
    staleTime: 60_000,
  });

/** The draft with its entity tag, which publishing and reordering must show. */
export const draftQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'draft'],
    queryFn: async () => api.call('showDraft', { params: { site } }),
  });

/** All snippets of the draft. */
export const snippetsQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'snippets'],
    queryFn: async () => (await api.call('listSnippets', { params: { site } })).data.items,
  });

export const snippetQuery = (site: string, snippet: string) =>
  queryOptions({
    queryKey: ['site', site, 'snippet', snippet],
    queryFn: async () => api.call('showSnippet', { params: { site, snippet } }),
  });

export const planQuery = (site: string, query: PlanQuery) =>
  queryOptions({
    queryKey: ['site', site, 'plan', query],
    queryFn: async () => (await api.call('showPlan', { params: { site }, query })).data,
  });

export const diffQuery = (site: string, from: string, to: string) =>
  queryOptions({
    queryKey: ['site', site, 'diff', from, to],
    queryFn: async () => (await api.call('showDiff', { params: { site }, query: { from, to } })).data,
  });

export const findingsQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'findings'],
    queryFn: async () => (await api.call('listFindings', { params: { site }, query: {} })).data,
  });

/** It asks the service to work it out anew, and is closed soon. */
const WORKED_OUT = { staleTime: 0, gcTime: 0 } as const;

/** What fixing one finding would change. */
export const fixPreviewQuery = (site: string, finding: string) =>
  queryOptions({
    // Not among what is asked for again after a change: a finding that was fixed is gone.
    queryKey: ['fix', site, finding],
    queryFn: async () =>
      (await api.call('fixFinding', { params: { site, finding }, body: { preview: true } })).data,
    ...WORKED_OUT,
  });

/** What fixing all that can be fixed would change. */
export const fixAllPreviewQuery = (site: string) =>
  queryOptions({
    queryKey: ['fix', site],
    queryFn: async () => (await api.call('fixFindings', { params: { site }, body: { preview: true } })).data,
    ...WORKED_OUT,
  });

export const historyQuery = (site: string, snippet: string) =>
  queryOptions({
    queryKey: ['site', site, 'history', snippet],
    queryFn: async () => (await api.call('showHistory', { params: { site, snippet } })).data.items,
  });

/** What is wrong in the draft and was not in what is live. */
export const newFindingsQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'findings', 'new'],
    queryFn: async () =>
      (await api.call('listFindings', { params: { site }, query: { against: 'live' } })).data.items,
  });

/** What needs what in the draft, and the moves that put it in order. */
export const orderReportQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'order-report'],
    queryFn: async () => (await api.call('showOrderReport', { params: { site }, query: {} })).data,
  });

export const recipePreviewQuery = (site: string, snippet: string) =>
  queryOptions({
    // Not among what is asked for again after a change: once the recipe is made, there is nothing new to make.
    queryKey: ['recipe-preview', site, snippet],
    queryFn: async () =>
      (await api.call('makeRecipe', { params: { site, snippet }, body: { preview: true } })).data,
    ...WORKED_OUT,
  });

export const checklistQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'checklist'],
    queryFn: async () => (await api.call('showChecklist', { params: { site } })).data.items,
  });

/** So many releases, or entries, come at once. */
const LIMIT = 50;

/** Releases page by page, the newest first. */
export const releasesQuery = (site: string) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'releases'],
    queryFn: async ({ pageParam }) =>
      (await api.call('listReleases', { params: { site }, query: { after: pageParam, limit: LIMIT } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });
