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

export const secondFactorQuery = queryOptions({
  queryKey: ['account', 'second-factor'],
  queryFn: async () => (await api.call('showSecondFactor', {})).data,
});

export const passkeysQuery = queryOptions({
  queryKey: ['account', 'passkeys'],
  queryFn: async () => (await api.call('listPasskeys', {})).data.items,
});

/**
 * A change of one's own access; what is shown of it is asked for again.
 *
 * @param onDone - runs before that, even if what started the change leaves the screen with it
 */
export function useAccountChange<Input, Result>(
  change: (input: Input) => Promise<Result>,
  onDone?: (result: Result) => void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (result) => {
      onDone?.(result);
      return client.invalidateQueries({ queryKey: ['account'] });
    },
  });
}
