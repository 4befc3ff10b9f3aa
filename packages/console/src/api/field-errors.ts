import { ApiError } from '@pragmatica/contract';

/** What a call that was refused says of its fields. */
export interface FieldErrors {
  readonly isEmpty: boolean;
  /** What is wrong at the first of some JSON pointers (RFC 6901) at which something is. */
  readonly at: (...pointers: readonly string[]) => string | undefined;
}

export function fieldErrorsOf(error: unknown): FieldErrors {
  const errors = error instanceof ApiError ? (error.problem.errors ?? []) : [];
  return {
    isEmpty: errors.length === 0,
    at: (...pointers) => errors.find(({ pointer }) => pointers.includes(pointer))?.detail,
  };
}
