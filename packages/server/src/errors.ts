import type { FieldError } from '@pragmatica/contract';
import { formatMessage, type Params } from '@pragmatica/core';
import { PROBLEM_MESSAGES, type ErrorCode, type ProblemId, type ProblemParams } from './texts/problems.js';

export type { ErrorCode } from './texts/problems.js';

export interface ErrorDetails {
  /** The fields of the request that it is about. */
  readonly errors?: readonly FieldError[];
  readonly changedBy?: string;
  readonly changedAt?: string;
  /** Seconds after which it may be tried again. */
  readonly retryAfter?: number;
}

/** Thrown anywhere below the network interface, which alone knows how it is answered. What is said is in `texts`. */
export class ServiceError<Id extends ProblemId = ProblemId> extends Error {
  readonly id: Id;
  readonly code: ErrorCode;
  readonly params: Params;
  readonly details: ErrorDetails;

  /** @param params - what the message of this id names */
  constructor(id: Id, params: ProblemParams<Id>, details: ErrorDetails = {}, cause?: unknown) {
    const { code, pattern } = PROBLEM_MESSAGES.get(id)!;
    super(formatMessage(pattern, params), { cause });
    this.name = 'ServiceError';
    this.id = id;
    this.code = code;
    this.params = params;
    this.details = details;
  }
}

/** The same with its sentence at one field of the request, too. @param pointer - into the body (RFC 6901) */
export function errorAt<Id extends ProblemId>(
  pointer: string,
  id: Id,
  params: ProblemParams<Id>,
): ServiceError<Id> {
  const detail = formatMessage(PROBLEM_MESSAGES.get(id)!.pattern, params);
  return new ServiceError(id, params, { errors: [{ pointer, detail, message: { id, params } }] });
}

/** While the database is away, nothing can be looked at or changed; visitors notice nothing. */
export function databaseAway(cause?: unknown): ServiceError {
  return new ServiceError('database-away', {}, {}, cause);
}
