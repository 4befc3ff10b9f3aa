import type { Problem } from '@pragmatica/contract';
import { formatMessage } from '@pragmatica/core';
import type { ServiceError, ErrorCode } from '../errors.js';
import { wordFieldError } from '../texts/field-errors.js';
import { PROBLEM_TITLES } from '../texts/problem-titles.js';
import { PROBLEM_MESSAGES } from '../texts/problems.js';

/** How each error is answered (RFC 9457). */
export const PROBLEM_STATUSES: Readonly<Record<ErrorCode, number>> = {
  'invalid-input': 422,
  'malformed-body': 400,
  'malformed-request': 400,
  'too-much-to-read': 422,
  'too-large': 413,
  'unsupported-media-type': 415,
  'not-signed-in': 401,
  'wrong-password': 401,
  'code-required': 401,
  'confirmation-required': 403,
  'password-change-required': 403,
  'cross-site': 403,
  forbidden: 403,
  'not-found': 404,
  conflict: 409,
  'not-possible': 409,
  'approval-required': 409,
  'limit-reached': 409,
  'too-many-calls': 429,
  'nothing-to-publish': 409,
  'errors-found': 422,
  'not-contained': 422,
  'changed-meanwhile': 412,
  'if-match-required': 428,
  'too-many-attempts': 429,
  'method-not-allowed': 405,
  unavailable: 503,
  internal: 500,
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
  const { errors, retryAfter: _, ...rest } = details;
  return {
    type: `urn:pragmatica:problem:${code}`,
    title: PROBLEM_TITLES[code],
    status: PROBLEM_STATUSES[code],
    detail: formatMessage(PROBLEM_MESSAGES.get(id)!.pattern, params, locale),
    instance,
    message: { id, params },
    ...rest,
    ...(errors ? { errors: errors.map((error) => wordFieldError(error, locale)) } : {}),
  };
}
