import type { EndpointCall, Endpoints, ToldComment } from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './client';

const LIMIT = 50;

/** What comments are on. */
export type CommentSubject = { readonly snippet: string } | { readonly finding: string };

export type CommentState = 'open' | 'done' | 'all';

/** Comments page by page, the newest first. @param on - all of the site when left out */
export const commentsQuery = (site: string, state: CommentState, on?: CommentSubject) =>
  infiniteQueryOptions({
    queryKey: ['site', site, 'comments', state, on ?? null],
    queryFn: async ({ pageParam }) => {
      const query = { after: pageParam, limit: LIMIT, state, ...on };
      return (await api.call('listComments', { params: { site }, query })).data;
    },
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

/** What there are comments on, and how many. */
export const commentedQuery = (site: string) =>
  queryOptions({
    queryKey: ['site', site, 'comments', 'subjects'],
    queryFn: async () => (await api.call('listCommented', { params: { site } })).data.items,
  });

function useCommentChange<Input, Result>(
  site: string,
  change: (input: Input) => Promise<Result>,
  onDone: (result: Result) => void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (result) => {
      onDone(result);
      return client.invalidateQueries({ queryKey: ['site', site, 'comments'] });
    },
  });
}

export function useAddComment(site: string, on: CommentSubject, onDone: (told: ToldComment) => void) {
  return useCommentChange(
    site,
    async (text: string) => (await api.call('addComment', { params: { site }, body: { text, ...on } })).data,
    onDone,
  );
}

type Patch = EndpointCall<Endpoints['editComment']>['body'];

export function useEditComment(site: string, comment: number, onDone: (told: ToldComment) => void) {
  return useCommentChange(
    site,
    async (body: Patch) => (await api.call('editComment', { params: { site, comment }, body })).data,
    onDone,
  );
}

export function useRemoveComment(site: string, comment: number, onDone: () => void) {
  return useCommentChange(site, () => api.call('removeComment', { params: { site, comment } }), onDone);
}
