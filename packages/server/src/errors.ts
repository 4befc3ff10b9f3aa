import type { FieldError } from '@pragmatica/contract';
import { formatMessage, type ParamValue, type ParamsOf } from './texts/message.js';
import { PROBLEM_MESSAGES, type ErrorCode, type ProblemId, type ProblemMessage } from './texts/problems.js';

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
  readonly params: Readonly<Record<string, ParamValue>>;
  readonly details: ErrorDetails;

  /** @param params - what the message of this id names */
  constructor(id: Id, params: ParamsOf<ProblemMessage<Id>>, details: ErrorDetails = {}, cause?: unknown) {
    const { code, message } = PROBLEM_MESSAGES.get(id)!;
    super(formatMessage(message, params), { cause });
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
  params: ParamsOf<ProblemMessage<Id>>,
): ServiceError<Id> {
  const detail = formatMessage(PROBLEM_MESSAGES.get(id)!.message, params);
  return new ServiceError(id, params, { errors: [{ pointer, detail }] });
}

/** While the database is away, nothing can be looked at or changed; visitors notice nothing. */
export function databaseAway(cause?: unknown): ServiceError {
  return new ServiceError('database-away', {}, {}, cause);
}
