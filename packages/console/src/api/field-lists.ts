import { infiniteQueryOptions } from '@tanstack/react-query';
import { api } from './client';

/** So many rows come at once. */
const LIMIT = 100;

/** A field of all sites, page by page; before one is chosen only the names that there are. */
export const fieldListQuery = (name: string | undefined) =>
  infiniteQueryOptions({
    queryKey: ['fields', name ?? null],
    queryFn: async ({ pageParam }) =>
      (
        await api.call('listFields', {
          query: { name, after: pageParam, limit: name === undefined ? 1 : LIMIT },
        })
      ).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });
