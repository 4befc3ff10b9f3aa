import type { HandoverSheetResource } from '@pragmatica/contract';
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './client';
import { useSiteChange } from './mutations';
import type { Ticked } from './paste';

export const handoversQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'handovers'],
    queryFn: async () => (await api.call('listHandovers', { params: { site } })).data.items,
  });

export function useMakeHandover(site: string) {
  return useSiteChange(site, (days: number) =>
    api.call('createHandover', { params: { site }, body: { days } }),
  );
}

export function useEndHandover(site: string) {
  return useSiteChange(site, (handover: number) => api.call('endHandover', { params: { site, handover } }));
}

/** What whoever has a link sees. */
export const handoverQuery = (secret: string) =>
  queryOptions({
    queryKey: ['handover', secret],
    queryFn: async () => (await api.call('openHandover', { body: { secret } })).data,
  });

export function useTickHandover(secret: string) {
  const client = useQueryClient();
  const tick = useMutation({
    mutationFn: async (ticked: Ticked): Promise<HandoverSheetResource> =>
      (await api.call('tickHandover', { body: { secret, ...ticked } })).data,
    onSuccess: (data) => client.setQueryData(handoverQuery(secret).queryKey, data),
    // Somebody has published meanwhile: what is to be pasted is another text now.
    onError: () => client.invalidateQueries(handoverQuery(secret)),
  });
  return { run: (ticked: Ticked) => tick.mutate(ticked), isPending: tick.isPending, error: tick.error };
}
