import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './client';

export const sessionsQuery = queryOptions({
  queryKey: ['account', 'sessions'],
  queryFn: async () => (await api.call('listSessions', {})).data.items,
});

export const tokensQuery = queryOptions({
  queryKey: ['account', 'tokens'],
  queryFn: async () => (await api.call('listTokens', {})).data.items,
});

/** A change of one's own access; what is shown of it is asked for again. */
export function useAccountChange<Input, Result>(change: (input: Input) => Promise<Result>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => client.invalidateQueries({ queryKey: ['account'] }),
  });
}
