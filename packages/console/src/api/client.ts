import { ApiError, createClient } from '@pragmatica/contract';

/** The console's own service, with the session cookie. */
export const api = createClient({ server: '' });

/** Whether what was asked for is not there. */
export function isNotFound(error: Error | null): boolean {
  return error instanceof ApiError && error.status === 404;
}
