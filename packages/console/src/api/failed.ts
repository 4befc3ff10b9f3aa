import { ApiError } from '@pragmatica/contract';
import type { QueryObserverLoadingErrorResult, UseQueryResult } from '@tanstack/react-query';

/**
 * Whether there is nothing to show in place of the failure: no answer has come yet, or the last one says that it is gone. A service
 * that is away for a moment takes nothing from the screen, and nobody what they have typed there.
 */
export function hasFailed<Data>(query: UseQueryResult<Data>): query is QueryObserverLoadingErrorResult<Data> {
  const { error, data } = query;
  return error !== null && (data === undefined || (error instanceof ApiError && error.status < 500));
}
