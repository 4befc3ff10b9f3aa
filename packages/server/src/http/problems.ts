import type { Problem } from '@pragmatica/contract';
import { formatMessage } from '@pragmatica/core';
import type { ServiceError, ErrorCode } from '../errors.js';
import { wordFieldError } from '../texts/field-errors.js';
import { PROBLEM_MESSAGES } from '../texts/problems.js';

/** How each error is answered (RFC 9457). */
export const PROBLEMS: Readonly<Record<ErrorCode, { readonly status: number; readonly title: string }>> = {
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
  'changed-meanwhile': { status: 412, title: 'Somebody else has changed it' },
  'if-match-required': { status: 428, title: 'If-Match is required' },
  'too-many-attempts': { status: 429, title: 'Too many attempts' },
  'method-not-allowed': { status: 405, title: 'This address does not know that method' },
  unavailable: { status: 503, title: 'The database does not answer' },
  internal: { status: 500, title: 'Something went wrong in Pragmatica' },
};

/**
 * @param instance - the address that was asked for
 * @param locale - how the reader writes numbers and dates
 */
export function toProblem(
  { id, code, params, details }: ServiceError,
  instance: string,
  locale?: string,
): Problem {
  const { status, title } = PROBLEMS[code];
  const { errors, retryAfter: _, ...rest } = details;
  return {
    type: `urn:pragmatica:problem:${code}`,
    title,
    status,
    detail: formatMessage(PROBLEM_MESSAGES.get(id)!.pattern, params, locale),
    instance,
    message: { id, params },
    ...rest,
    ...(errors ? { errors: errors.map((error) => wordFieldError(error, locale)) } : {}),
  };
}
