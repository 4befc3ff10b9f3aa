import { queryOptions } from '@tanstack/react-query';
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
