import { ApiError } from '@pragmatica/contract';
import type { QueryObserverLoadingErrorResult, UseQueryResult } from '@tanstack/react-query';

/** Whether asking again brings nothing: it is not there, or one may not see it. */
export function isGone(error: Error | null): boolean {
  return error instanceof ApiError && [403, 404, 410].includes(error.status);
}

/**
 * Whether there is nothing to show in place of the failure: no answer has come yet, or the last one says that it is gone. A service
 * that is away for a moment, or a session that is over, takes nothing from the screen, and nobody what they have typed there.
 */
export function hasFailed<Data>(query: UseQueryResult<Data>): query is QueryObserverLoadingErrorResult<Data> {
  const { error, data } = query;
  return error !== null && (data === undefined || isGone(error));
}
