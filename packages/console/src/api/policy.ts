import type { PolicyInput } from '@pragmatica/contract';
import { queryOptions } from '@tanstack/react-query';
import { api } from './client';
import { useSiteChange } from './mutations';

export const policyQuery = (site: string, host: string) =>
  queryOptions({
    queryKey: ['site', site, 'policy', host],
    queryFn: async () => (await api.call('showPolicy', { params: { site, host } })).data,
    // Reports come in while somebody looks.
    refetchInterval: 10_000,
  });

export function useSetPolicy(site: string, host: string) {
  return useSiteChange(site, (body: PolicyInput) => api.call('setPolicy', { params: { site, host }, body }));
}

export function useClearReports(site: string, host: string) {
  return useSiteChange(site, () => api.call('clearPolicyReports', { params: { site, host } }));
}
