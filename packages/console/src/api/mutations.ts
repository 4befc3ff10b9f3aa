import {
  ApiError,
  type FieldChanges,
  type FindingResource,
  type HostSecretInput,
  type SurveyScheduleInput,
  type RecipeApplication,
  type RecipeInput,
  type SitePatch,
  type SiteResult,
  type SnippetInput,
  type SnippetPatch,
  type SnippetResource,
} from '@pragmatica/contract';
import { partKey, type Placement } from '@pragmatica/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useToast } from '../ui/toast';
import { api } from './client';
import { refreshSites } from './site-lists';
import { COMMON } from '../texts/common';
import { say } from '../texts/say';

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
export function useSiteChange<T, R>(
  site: string,
  change: (input: T) => Promise<R>,
  gone?: string,
): SiteChange<T, R> {
  return useChange(
    change,
    (queryKey) => queryKey[1] === site && (gone === undefined || queryKey[3] !== gone),
  );
}

/** The same for a change of several sites: of all of them what was shown is asked for again. */
function useSitesChange<T, R>(change: (input: T) => Promise<R>): SiteChange<T, R> {
  return useChange(change, () => true);
}

/** @param isStale - whether a query of a site, by its key, must be asked again */
function useChange<T, R>(
  change: (input: T) => Promise<R>,
  isStale: (queryKey: readonly unknown[]) => boolean,
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
        client.invalidateQueries({ queryKey: ['site'], predicate: ({ queryKey }) => isStale(queryKey) }),
        refreshSites(client),
        client.invalidateQueries({ queryKey: ['fields'] }),
        client.invalidateQueries({ queryKey: ['recipes'] }),
      ]);
    },
    onError: (failure) => toast({ tone: 'problem', title: titleOf(failure), text: failure.message }),
  });
  return { isPending, error, run: (input, onDone) => mutate({ input, ...(onDone ? { onDone } : {}) }) };
}

function titleOf(error: Error): string {
  return error instanceof ApiError ? error.problem.title : COMMON.didNotWork;
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

/** Gives several snippets a state each, group by group. */
export function useSwitchSnippets(site: string) {
  return useSiteChange(
    site,
    async (
      changes: readonly { readonly snippets: readonly string[]; readonly state: 'on' | 'off' | 'archived' }[],
    ) => {
      for (const { snippets, state } of changes)
        await api.call('switchSnippets', { params: { site }, body: { snippets: [...snippets], state } });
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

/** Changes a snippet. @returns `changed` where somebody else has changed it since it had that tag: then nothing is done */
export function useEditSnippet(site: string, snippet: string) {
  return useSiteChange(site, async ({ etag, body }: { etag: string; body: SnippetPatch }) => {
    try {
      return await api.call('editSnippet', { params: { site, snippet }, ifMatch: etag, body });
    } catch (error) {
      if (error instanceof ApiError && error.status === 412) return 'changed' as const;
      throw error;
    }
  });
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

/** The snippets of a list of findings as they are, so that a change of them can be taken back. */
async function snippetsOf(site: string, findings: readonly FindingResource[]): Promise<SnippetResource[]> {
  const keys = new Set(
    findings.flatMap(({ subjects, fix }) => [
      ...subjects.map(({ snippet }) => snippet),
      ...(fix?.changes ?? []).flatMap((change) =>
        change.kind === 'arrange'
          ? change.lists.flatMap(({ parts }) => parts.map((part) => part.split('/')[0]!))
          : [],
      ),
    ]),
  );
  return Promise.all(
    [...keys].map(async (snippet) => (await api.call('showSnippet', { params: { site, snippet } })).data),
  );
}

/** Fixes everything that can be fixed. @returns the snippets as they were before */
export function useFixAll(site: string) {
  return useSiteChange(site, async () => {
    const before = (await api.call('listSnippets', { params: { site } })).data.items;
    await api.call('fixFindings', { params: { site }, body: {} });
    return before;
  });
}

/** Puts the draft in the right order. @returns the snippets as they were before */
export function useRightOrder(site: string) {
  return useSiteChange(site, async () => {
    const before = (await api.call('listSnippets', { params: { site } })).data.items;
    await api.call('rightOrder', { params: { site }, body: {} });
    return before;
  });
}

export function useWaiveFinding(site: string) {
  return useSiteChange(site, ({ finding, ...body }: { finding: string; reason: string; until: string }) =>
    api.call('waiveFinding', { params: { site, finding }, body }),
  );
}

export function useRemoveWaiver(site: string) {
  return useSiteChange(site, (finding: string) => api.call('removeWaiver', { params: { site, finding } }));
}

/** Fixes one finding. @returns the snippets as they were before, so that it can be taken back */
export function useFixFinding(site: string) {
  return useSiteChange(site, async (finding: FindingResource) => {
    const before = await snippetsOf(site, [finding]);
    await api.call('fixFinding', { params: { site, finding: finding.id }, body: {} });
    return before;
  });
}

/** Gives snippets the state, the parts and the order that they had before. */
export function useUndoFix(site: string) {
  return useSiteChange(site, async (snippets: readonly SnippetResource[]) => {
    for (const { key, state, parts } of snippets) {
      const params = { site, snippet: key };
      const { data: now, etag } = await api.call('showSnippet', { params });
      if (now.state === state && JSON.stringify(now.parts) === JSON.stringify(parts)) continue;
      const body = {
        state,
        parts: parts.map(({ placement, code, statement }) => ({ placement, code, statement })),
      };
      await api.call('editSnippet', { params, ifMatch: etag, body });
    }
    await undoOrder(site, snippets);
  });
}

/** Parts that stood in an order stand in it again; others keep their places behind them. */
async function undoOrder(site: string, snippets: readonly SnippetResource[]): Promise<void> {
  const ranks = new Map(
    snippets.flatMap(({ key, parts }) =>
      parts.map(({ rank }, index) => [partKey(key, index), rank] as const),
    ),
  );
  const { data, etag } = await api.call('showOrder', { params: { site } });
  const lists = data.lists.flatMap(({ placement, parts }) => {
    const sorted = [...parts].sort((a, b) => (ranks.get(a) ?? Infinity) - (ranks.get(b) ?? Infinity));
    const isKnown = parts.some((part) => ranks.has(part));
    return isKnown && sorted.join() !== parts.join() ? [{ placement, parts: sorted }] : [];
  });
  if (lists.length > 0) await api.call('changeOrder', { params: { site }, ifMatch: etag, body: { lists } });
}

export function usePublish(site: string) {
  return useSiteChange(
    site,
    ({ etag, ...body }: { etag: string; message: string; force?: string | undefined }) =>
      api.call('publish', { params: { site }, ifMatch: etag, body }),
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

export function useChangeFields() {
  return useSitesChange(
    async (changes: FieldChanges['changes']) =>
      (await api.call('changeFields', { body: { changes } })).data.items,
  );
}

/** What became of one snippet's copy in one site. */
export type CopyResult = SiteResult & { readonly snippet: string };

/** Copies snippets into other sites, one after the other: of two that share a field the first brings it. */
export function useCopySnippets(site: string, snippets: readonly string[]) {
  return useSitesChange(async (sites: string[]) => {
    const results: CopyResult[] = [];
    for (const snippet of snippets) {
      const { data } = await api.call('copySnippet', { params: { site, snippet }, body: { sites } });
      results.push(...data.items.map((item) => ({ ...item, snippet })));
    }
    return results;
  });
}

/** Moves snippets to another placement, behind what stands there. */
export function useMoveSnippets(site: string) {
  return useSiteChange(
    site,
    async (body: { snippets: string[]; placement: Placement }) =>
      (await api.call('moveSnippets', { params: { site }, body })).data,
  );
}

export function useApplyRecipe(recipe: string) {
  return useSitesChange(
    async (body: RecipeApplication) =>
      (await api.call('applyRecipe', { params: { recipe }, body })).data.items,
  );
}

export function useImportRecipe() {
  return useSitesChange(async (body: RecipeInput) => (await api.call('importRecipe', { body })).data);
}

export function useMakeRecipe(site: string, snippet: string) {
  return useSitesChange(
    async (body: { name?: string; changes?: string }) =>
      (await api.call('makeRecipe', { params: { site, snippet }, body })).data,
  );
}

/** Lets a snippet that was pasted by hand follow the recipe that its code tells. */
export function useFollowRecipe(site: string, snippet: string) {
  return useSitesChange(async (recipe: string) =>
    api.call('followRecipe', { params: { site, snippet }, body: { recipe } }),
  );
}

/** Lets a snippet go its own way. */
export function useLeaveRecipe(site: string, snippet: string) {
  return useSiteChange(site, ({ etag }: { etag: string }) =>
    api.call('editSnippet', { params: { site, snippet }, ifMatch: etag, body: { recipe: null } }),
  );
}

export function useUpdateFromRecipes() {
  return useSitesChange(
    async (body: { snippets: { site: string; snippet: string }[]; replaceEdits: boolean }) =>
      (await api.call('updateFromRecipes', { body })).data.items,
  );
}

export function useTickStep(site: string) {
  return useSiteChange(site, (body: { recipe: string; step: string; host: string; done: boolean }) =>
    api.call('tickStep', { params: { site }, body }),
  );
}

export interface Published {
  readonly site: string;
  readonly isDone: boolean;
  readonly text: string;
}

/** Publishes sites one after the other and tells what became of each as it goes. */
export function usePublishSites() {
  return useSitesChange(
    async ({
      sites,
      message,
      onEach,
    }: {
      sites: readonly string[];
      message: string;
      onEach: (results: readonly Published[]) => void;
    }) => {
      const results: Published[] = [];
      for (const site of sites) {
        results.push(await publishOne(site, message));
        onEach([...results]);
      }
    },
  );
}

async function publishOne(site: string, message: string): Promise<Published> {
  try {
    const { etag } = await api.call('showDraft', { params: { site } });
    const { data } = await api.call('publish', { params: { site }, ifMatch: etag, body: { message } });
    return { site, isDone: true, text: say(COMMON.releaseNumberLive, { number: data.number }) };
  } catch (failure) {
    return { site, isDone: false, text: failure instanceof Error ? failure.message : COMMON.itDid };
  }
}

export function useAdoptSighting(site: string) {
  return useSiteChange(
    site,
    async ({ sighting, ...body }: { sighting: number; name: string; with: number[] }) =>
      (await api.call('adoptSighting', { params: { site, sighting }, body })).data,
  );
}

/** @see useHeedSighting for the way back */
export function useIgnoreSighting(site: string) {
  return useSiteChange(site, ({ sighting, reason }: { sighting: number; reason: string }) =>
    api.call('ignoreSighting', { params: { site, sighting }, body: { reason } }),
  );
}

export function useHeedSighting(site: string) {
  return useSiteChange(site, (sighting: number) => api.call('heedSighting', { params: { site, sighting } }));
}

export function useGiveAccess(site: string) {
  return useSiteChange(site, ({ host, ...body }: { host: string } & HostSecretInput) =>
    api.call('giveAccess', { params: { site, host }, body }),
  );
}

export function useForgetAccess(site: string) {
  return useSiteChange(site, (host: string) => api.call('forgetAccess', { params: { site, host } }));
}

export function useSetSchedule(site: string) {
  return useSiteChange(site, ({ host, ...body }: { host: string } & SurveyScheduleInput) =>
    api.call('setSchedule', { params: { site, host }, body }),
  );
}

export function useEndSchedule(site: string) {
  return useSiteChange(site, (host: string) => api.call('endSchedule', { params: { site, host } }));
}
