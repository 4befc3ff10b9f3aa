import { ApiError, type MemberResource } from '@pragmatica/contract';
import type { QueryClient } from '@tanstack/react-query';
import { sessionQuery } from './queries';

/** Whether a call was refused because nobody is signed in, or nobody is any more. */
export function isSessionOver(error: Error | null): boolean {
  return error instanceof ApiError && error.status === 401;
}

/** Goes on as whoever has signed in: with what stood there if it is who was here before, and with nothing of it if not. */
export function goOnAs(client: QueryClient, member: MemberResource): void {
  const before = client.getQueryData(sessionQuery.queryKey);
  // The session itself stays in the cache: whoever shows it would not hear of a new one.
  if (before && before.login !== member.login)
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
  client.setQueryData(sessionQuery.queryKey, member);
  if (before) void client.invalidateQueries();
}
