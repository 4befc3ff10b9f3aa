import { ApiError, type SnippetInput, type SnippetPatch } from '@pragmatica/contract';
import type { Placement } from '@pragmatica/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useToast } from '../ui/toast';
import { api } from './client';

/** What every change of a site does when it is done: what was shown of the site is asked for again. */
function useSiteChange<T, R>(site: string, change: (input: T) => Promise<R>) {
  const client = useQueryClient();
  const toast = useToast();
  return useMutation({
    mutationFn: change,
    onSettled: async () => {
      await Promise.all([client.invalidateQueries({ queryKey: ['site', site] }), client.invalidateQueries({ queryKey: ['sites'] })]);
    },
    onError: (error) => toast({ tone: 'problem', title: titleOf(error), text: error.message }),
  });
}

function titleOf(error: Error): string {
  return error instanceof ApiError ? error.problem.title : 'That did not work';
}

/** Changes a snippet on top of its newest state; used by switches, where the newest state is what is meant. */
export function useSwitchSnippet(site: string) {
  return useSiteChange(site, async ({ snippet, state }: { snippet: string; state: 'on' | 'off' | 'archived' }) => {
    const params = { site, snippet };
    const { etag } = await api.call('showSnippet', { params });
    return api.call('editSnippet', { params, ifMatch: etag, body: { state } });
  });
}

export function useCreateSnippet(site: string) {
  return useSiteChange(site, (body: SnippetInput) => api.call('createSnippet', { params: { site }, body }));
}

export function useEditSnippet(site: string, snippet: string) {
  return useSiteChange(site, ({ etag, body }: { etag: string; body: SnippetPatch }) =>
    api.call('editSnippet', { params: { site, snippet }, ifMatch: etag, body }),
  );
}

export function useRemoveSnippet(site: string, snippet: string) {
  return useSiteChange(site, ({ etag }: { etag: string }) => api.call('removeSnippet', { params: { site, snippet }, ifMatch: etag }));
}

export function useChangeOrder(site: string) {
  return useSiteChange(site, ({ etag, placement, parts }: { etag: string; placement: Placement; parts: string[] }) =>
    api.call('changeOrder', { params: { site }, ifMatch: etag, body: { lists: [{ placement, parts }] } }),
  );
}

export function usePublish(site: string) {
  return useSiteChange(site, ({ etag, message }: { etag: string; message: string }) =>
    api.call('publish', { params: { site }, ifMatch: etag, body: { message } }),
  );
}

export function useRestore(site: string) {
  return useSiteChange(site, async ({ environment, release }: { environment: 'live' | 'staging'; release: number }) => {
    const params = { site, environment };
    const { etag } = await api.call('showEnvironment', { params });
    return api.call('restoreRelease', { params, ifMatch: etag, body: { release } });
  });
}
