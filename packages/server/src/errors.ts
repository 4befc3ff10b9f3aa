import type { FieldError } from '@pragmatica/contract';

/** What may go wrong in a way that whoever asked can be told; matched by code, never by text. */
export type ErrorCode =
  | 'invalid-input'
  | 'malformed-body'
  | 'malformed-request'
  | 'too-much-to-read'
  | 'too-large'
  | 'unsupported-media-type'
  | 'not-signed-in'
  | 'wrong-password'
  | 'password-change-required'
  | 'cross-site'
  | 'not-found'
  | 'conflict'
  | 'nothing-to-publish'
  | 'errors-found'
  | 'not-contained'
  | 'changed-meanwhile'
  | 'if-match-required'
  | 'too-many-attempts'
  | 'method-not-allowed'
  | 'unavailable'
  | 'internal';

export interface ErrorDetails {
  /** The fields of the request that it is about. */
  readonly errors?: readonly FieldError[];
  readonly changedBy?: string;
  readonly changedAt?: string;
}

/** Thrown anywhere below the network interface, which alone knows how it is answered. */
export class ServiceError extends Error {
  readonly code: ErrorCode;
  readonly details: ErrorDetails;

  /** @param detail - what happened and what to do, for people */
  constructor(code: ErrorCode, detail: string, details: ErrorDetails = {}, cause?: unknown) {
    super(detail, { cause });
    this.name = 'ServiceError';
    this.code = code;
    this.details = details;
  }
}

/** While the database is away, nothing can be looked at or changed; visitors notice nothing. */
export function databaseAway(cause?: unknown): ServiceError {
  return new ServiceError(
    'unavailable',
    'The database does not answer. Visitors get their pages as they were; nothing can be looked at or changed until it is back.',
    {},
    cause,
  );
}
