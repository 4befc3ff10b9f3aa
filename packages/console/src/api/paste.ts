import { queryOptions, useMutation } from '@tanstack/react-query';
import type { BoxResource } from '@pragmatica/contract';
import { api } from './client';
import { useSiteChange } from './mutations';

export const blocksQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'blocks'],
    queryFn: async () => (await api.call('showBlocks', { params: { site }, query: {} })).data,
  });

export const lineQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'line'],
    queryFn: async () => (await api.call('showLine', { params: { site }, query: {} })).data,
  });

export function useSetBoxes(site: string) {
  return useSiteChange(site, (boxes: BoxResource[]) =>
    api.call('setBoxes', { params: { site }, body: { boxes } }),
  );
}

export interface Ticked {
  readonly kind: BoxResource['kind'];
  readonly page: string | null;
  readonly digest: string | null;
}

export function useTickBlock(site: string) {
  return useSiteChange(site, (body: Ticked) => api.call('tickBlock', { params: { site }, body }));
}

export function useCheckBlocks(site: string) {
  return useMutation({
    mutationFn: async () => (await api.call('checkBlocks', { params: { site }, query: {} })).data,
  });
}
