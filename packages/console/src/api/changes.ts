import {
  ApiError,
  type FindingResource,
  type SitePatch,
  type SnippetInput,
  type SnippetPatch,
  type SnippetResource,
} from '@pragmatica/contract';
import type { Placement } from '@pragmatica/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useToast } from '../ui/toast';
import { api } from './client';

export interface SiteChange<T, R> {
  readonly isPending: boolean;
  readonly error: Error | null;
  /** @param onDone - runs even if what started the change has left the screen by then */
  run: (input: T, onDone?: (result: R) => unknown) => void;
}

/**
 * What every change of a site does when it is done: what was shown of the site is asked for again.
 *
 * @param gone - a snippet that is not there any more and must not be asked for
 */
function useSiteChange<T, R>(
  site: string,
  change: (input: T) => Promise<R>,
  gone?: string,
): SiteChange<T, R> {
  const client = useQueryClient();
  const toast = useToast();
  const { isPending, error, mutate } = useMutation({
    mutationFn: async ({ input, onDone }: { input: T; onDone?: (result: R) => unknown }) => {
      const result = await change(input);
      await onDone?.(result);
    },
    onSettled: async () => {
      await Promise.all([
        client.invalidateQueries({
          queryKey: ['site', site],
          predicate: ({ queryKey }) => gone === undefined || queryKey[3] !== gone,
        }),
        client.invalidateQueries({ queryKey: ['sites'] }),
      ]);
    },
    onError: (failure) => toast({ tone: 'problem', title: titleOf(failure), text: failure.message }),
  });
  return { isPending, error, run: (input, onDone) => mutate({ input, ...(onDone ? { onDone } : {}) }) };
}

function titleOf(error: Error): string {
  return error instanceof ApiError ? error.problem.title : 'That did not work';
}

/** Changes a snippet on top of its newest state; used by switches, where the newest state is what is meant. */
export function useSwitchSnippet(site: string) {
  return useSiteChange(
    site,
    async ({ snippet, state }: { snippet: string; state: 'on' | 'off' | 'archived' }) => {
      const params = { site, snippet };
      const { etag } = await api.call('showSnippet', { params });
      return api.call('editSnippet', { params, ifMatch: etag, body: { state } });
    },
  );
}

export function useEditSite(site: string) {
  return useSiteChange(site, ({ etag, body }: { etag: string; body: SitePatch }) =>
    api.call('editSite', { params: { site }, ifMatch: etag, body }),
  );
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
  return useSiteChange(
    site,
    ({ etag }: { etag: string }) => api.call('removeSnippet', { params: { site, snippet }, ifMatch: etag }),
    snippet,
  );
}

export function useChangeOrder(site: string) {
  return useSiteChange(
    site,
    ({ etag, placement, parts }: { etag: string; placement: Placement; parts: string[] }) =>
      api.call('changeOrder', { params: { site }, ifMatch: etag, body: { lists: [{ placement, parts }] } }),
  );
}

/** Mends one finding. @returns the snippets as they were before, so that it can be taken back */
export function useFixFinding(site: string) {
  return useSiteChange(site, async (finding: FindingResource) => {
    const keys = [...new Set(finding.subjects.map(({ snippet }) => snippet))];
    const before = await Promise.all(
      keys.map(async (snippet) => (await api.call('showSnippet', { params: { site, snippet } })).data),
    );
    await api.call('fixFindings', { params: { site }, body: { findings: [finding.id] } });
    return before;
  });
}

/** Gives snippets the state and the parts that they had before. */
export function useUndoFix(site: string) {
  return useSiteChange(site, async (snippets: readonly SnippetResource[]) => {
    for (const { key, state, parts } of snippets) {
      const params = { site, snippet: key };
      const { etag } = await api.call('showSnippet', { params });
      const body = { state, parts: parts.map(({ placement, code }) => ({ placement, code })) };
      await api.call('editSnippet', { params, ifMatch: etag, body });
    }
  });
}

export function usePublish(site: string) {
  return useSiteChange(site, ({ etag, message }: { etag: string; message: string }) =>
    api.call('publish', { params: { site }, ifMatch: etag, body: { message } }),
  );
}

export function useRestore(site: string) {
  return useSiteChange(
    site,
    async ({ environment, release }: { environment: 'live' | 'staging'; release: number }) => {
      const params = { site, environment };
      const { etag } = await api.call('showEnvironment', { params });
      return api.call('restoreRelease', { params, ifMatch: etag, body: { release } });
    },
  );
}
