import type { FieldError, Problem } from '@pragmatica/contract';

/** All problems the API answers with: one entry each, matched by code, never by text (RFC 9457, `type`). */
const PROBLEMS = {
  'invalid-input': { status: 422, title: 'Something in the request is not right' },
  'malformed-body': { status: 400, title: 'The body could not be read' },
  'malformed-request': { status: 400, title: 'The request cannot be understood' },
  'too-much-to-read': { status: 422, title: 'This is too much to read' },
  'too-large': { status: 413, title: 'The body is too large' },
  'unsupported-media-type': { status: 415, title: 'The body has the wrong type' },
  'not-signed-in': { status: 401, title: 'You are not signed in' },
  'wrong-password': { status: 401, title: 'Name or password is wrong' },
  'password-change-required': { status: 403, title: 'A new password is needed first' },
  'cross-site': { status: 403, title: 'The request came from another site' },
  'not-found': { status: 404, title: 'Not found' },
  conflict: { status: 409, title: 'That already exists' },
  'nothing-to-publish': { status: 409, title: 'There is nothing to publish' },
  'errors-found': { status: 422, title: 'The checks find errors' },
  'not-contained': { status: 422, title: 'Some code would change the page around it' },
  'changed-meanwhile': { status: 412, title: 'Somebody changed it meanwhile' },
  'if-match-required': { status: 428, title: 'If-Match is required' },
  'too-many-attempts': { status: 429, title: 'Too many attempts' },
  'method-not-allowed': { status: 405, title: 'This address does not know that method' },
  unavailable: { status: 503, title: 'The database does not answer' },
  internal: { status: 500, title: 'Something went wrong in Pragmatica' },
} as const;

export type ProblemCode = keyof typeof PROBLEMS;

export interface ProblemExtras {
  readonly errors?: readonly FieldError[];
  readonly changedBy?: string;
  readonly changedAt?: string;
}

/** Thrown anywhere below a route; the error middleware turns it into `application/problem+json`. */
export class ProblemError extends Error {
  readonly code: ProblemCode;
  readonly extras: ProblemExtras;

  constructor(code: ProblemCode, detail: string, extras: ProblemExtras = {}, cause?: unknown) {
    super(detail, { cause });
    this.name = 'ProblemError';
    this.code = code;
    this.extras = extras;
  }

  toProblem(instance: string): Problem {
    const { status, title } = PROBLEMS[this.code];
    const { errors, ...rest } = this.extras;
    return {
      type: `urn:pragmatica:problem:${this.code}`,
      title,
      status,
      detail: this.message,
      instance,
      ...rest,
      ...(errors ? { errors: [...errors] } : {}),
    };
  }
}

/** While the database is away, nothing can be looked at or changed; visitors notice nothing. */
export function databaseAway(cause?: unknown): ProblemError {
  return new ProblemError(
    'unavailable',
    'The database does not answer. Visitors get their pages as they were; nothing can be looked at or changed until it is back.',
    {},
    cause,
  );
}
