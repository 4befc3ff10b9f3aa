import type { EndpointResult, Endpoints, WatchInput } from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api } from './client';
import { useSiteChange } from './mutations';

export type Watch = EndpointResult<Endpoints['showWatch']>;
export type WatchHistory = EndpointResult<Endpoints['showWatchHistory']>;
export type Notice = EndpointResult<Endpoints['listNotices']>['items'][number];

const NOTICES_A_PAGE = 20;
/** While something is on its way, what came of it shows by itself. */
const WAITING_MS = 2_000;

export const watchQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'watch'],
    queryFn: async () => api.call('showWatch', { params: { site } }),
  });

export const watchHistoryQuery = (site: string, host: string | undefined) =>
  queryOptions({
    queryKey: ['site', site, 'watch-history', host],
    queryFn: async () => (await api.call('showWatchHistory', { params: { site }, query: { host } })).data,
  });

export const noticesQuery = (site: string) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'notices'],
    queryFn: async ({ pageParam }) =>
      (
        await api.call('listNotices', {
          params: { site },
          query: { limit: NOTICES_A_PAGE, after: pageParam },
        })
      ).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
    refetchInterval: ({ state }) =>
      state.data?.pages.some(({ items }) => items.some((one) => one.state === 'waiting'))
        ? WAITING_MS
        : false,
  });

export function useSetWatch(site: string) {
  return useSiteChange(site, ({ etag, ...body }: WatchInput & { etag: string }) =>
    api.call('setWatch', { params: { site }, ifMatch: etag, body }),
  );
}

export function useAddWebhook(site: string) {
  return useSiteChange(site, (url: string) => api.call('addWebhook', { params: { site }, body: { url } }));
}

export function useRemoveWebhook(site: string) {
  return useSiteChange(site, (webhook: number) => api.call('removeWebhook', { params: { site, webhook } }));
}

export function useTryNotices(site: string) {
  return useSiteChange(site, () => api.call('tryNotices', { params: { site } }));
}

export function useSendNotice(site: string) {
  return useSiteChange(site, (notice: number) => api.call('sendNotice', { params: { site, notice } }));
}
