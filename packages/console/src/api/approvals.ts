import type { ApprovalSheet, EndpointCall, Endpoints } from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './client';
import { useSiteChange } from './mutations';

const LIMIT = 10;

/** Whether what goes live needs approval, and the requests, page by page, the newest first. */
export const approvalsQuery = (site: string) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'approvals'],
    queryFn: async ({ pageParam }) =>
      (await api.call('listApprovals', { params: { site }, query: { after: pageParam, limit: LIMIT } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

export const approvalQuery = (site: string, approval: number) =>
  queryOptions({
    queryKey: ['site', site, 'approval', approval],
    queryFn: async () => (await api.call('showApproval', { params: { site, approval } })).data,
  });

export function useApprovalRule(site: string) {
  return useSiteChange(site, (isNeeded: boolean) =>
    api.call('setApprovalRule', { params: { site }, body: { isNeeded } }),
  );
}

/** Asks for approval of the draft as it was seen, or of a release. */
export function useAskApproval(site: string) {
  return useSiteChange(
    site,
    async ({ etag, ...body }: { etag: string; message: string; release?: number }) =>
      (await api.call('askApproval', { params: { site }, ifMatch: etag, body })).data,
  );
}

type Decision = EndpointCall<Endpoints['decideApproval']>['body'];

export function useDecide(site: string, approval: number) {
  return useSiteChange(site, (body: Decision) =>
    api.call('decideApproval', { params: { site, approval }, body }),
  );
}

export function useWithdrawApproval(site: string, approval: number) {
  return useSiteChange(site, () => api.call('withdrawApproval', { params: { site, approval } }));
}

export function useLinkApproval(site: string, approval: number) {
  return useMutation({
    mutationFn: async (name: string) =>
      (await api.call('linkApproval', { params: { site, approval }, body: { name } })).data,
  });
}

/** What whoever has a link sees. */
export const approvalSheetQuery = (secret: string) =>
  queryOptions({
    queryKey: ['approval', secret],
    queryFn: async () => (await api.call('openApproval', { body: { secret } })).data,
    retry: false,
  });

export function useDecideByLink(secret: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (body: Decision): Promise<ApprovalSheet> =>
      (await api.call('decideByLink', { body: { secret, ...body } })).data,
    onSuccess: (data) => client.setQueryData(approvalSheetQuery(secret).queryKey, data),
    // It may be over by now.
    onError: () => client.invalidateQueries(approvalSheetQuery(secret)),
  });
}
