import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api } from './client';
import { useSiteChange } from './mutations';

const LIMIT = 50;

/** Which entries are wanted. */
export interface ActivityFilter {
  readonly words: string;
  /** Key of a snippet that was changed. */
  readonly snippet?: string | undefined;
}

/** What was done at a site, page by page, the newest first. */
export const activityQuery = (site: string, { words, snippet }: ActivityFilter) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'activity', words, snippet ?? ''],
    queryFn: async ({ pageParam }) => {
      const query = {
        after: pageParam,
        limit: LIMIT,
        q: words,
        ...(snippet === undefined ? {} : { snippet }),
      };
      return (await api.call('listActivity', { params: { site }, query })).data;
    },
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
    placeholderData: (before) => before,
  });

/** What was done at all sites and to the installation, page by page, the newest first. */
export const trailQuery = (words: string) =>
  infiniteQueryOptions({
    queryKey: ['trail', words],
    queryFn: async ({ pageParam }) =>
      (await api.call('listTrail', { query: { after: pageParam, limit: LIMIT, q: words } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
    placeholderData: (before) => before,
  });

/** What one change did. */
export const activityDetailQuery = (site: string, entry: number) =>
  queryOptions({
    queryKey: ['site', site, 'activity-detail', entry],
    queryFn: async () => (await api.call('showActivity', { params: { site, entry } })).data,
  });

/** What undoing a change would do to the draft as it is now. */
export const undoPlanQuery = (site: string, entry: number) =>
  queryOptions({
    queryKey: ['site', site, 'undo', entry],
    queryFn: async () => {
      const body = { preview: true };
      const { data, etag } = await api.call('undoActivity', { params: { site, entry }, ifMatch: '*', body });
      return { ...data, etag };
    },
    // Somebody may have changed the draft since it was looked at last.
    gcTime: 0,
  });

export const removedSnippetsQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'removed-snippets'],
    queryFn: async () =>
      (await api.call('listRemovedSnippets', { params: { site }, query: { limit: 200 } })).data.items,
  });

/** Takes a change back out of the draft. */
export function useUndo(site: string) {
  return useSiteChange(
    site,
    async ({ entry, etag, ...body }: UndoInput) =>
      (await api.call('undoActivity', { params: { site, entry }, ifMatch: etag, body })).data,
  );
}

interface UndoInput {
  readonly entry: number;
  /** Of the draft that was seen. */
  readonly etag: string;
  readonly only?: string[];
  readonly choices?: Record<string, 'now' | 'before'>;
}

/** Reads the whole trail and says whether it is as it was written. */
export function checkTrail(head: string, signal: AbortSignal) {
  return api.stream('verifyTrail', { query: head === '' ? {} : { head } }, signal);
}

export const trailHeadQuery = queryOptions({
  queryKey: ['trail', 'head'],
  queryFn: async () => (await api.call('showTrailHead', {})).data,
});
