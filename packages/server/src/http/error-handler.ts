import {
  CheckConstraintViolationException,
  OptimisticLockError,
  UniqueConstraintViolationException,
} from '@mikro-orm/core';
import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { ReadingError } from '../reading/readers.js';
import { ServiceError, databaseAway } from '../errors.js';
import { toProblem } from './problems.js';
import { localeOf } from './reader-locale.js';

/** The one place where errors become answers. What is not foreseen is logged and answered without its details. */
export function createErrorHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) {
      log.error({ err: error, url: request.originalUrl }, 'failed after the answer had begun');
      next(error);
      return;
    }
    const problem = toServiceError(error);
    if (problem.code === 'internal' || problem.code === 'unavailable')
      log.error({ err: error, url: request.originalUrl }, problem.message);
    const body = toProblem(problem, request.originalUrl.split('?')[0]!, localeOf(request));
    const { retryAfter } = problem.details;
    if (retryAfter !== undefined) response.setHeader('Retry-After', retryAfter);
    response.status(body.status).type('application/problem+json').send(JSON.stringify(body));
  };
}

/** Translates foreign errors once, here; above this line nobody reads a driver's code. */
function toServiceError(error: unknown): ServiceError {
  if (error instanceof ServiceError) return error as ServiceError;
  if (error instanceof OptimisticLockError) {
    return new ServiceError('changed-at-once', {}, {}, error);
  }
  if (error instanceof UniqueConstraintViolationException) {
    return new ServiceError('exists-already', {}, {}, error);
  }
  if (error instanceof ReadingError) return new ServiceError('too-much-to-read', {}, {}, error);
  if (isDatabaseAway(error)) return databaseAway(error);
  if (error instanceof CheckConstraintViolationException || codeOf(error)?.startsWith('22') === true)
    return new ServiceError('value-refused', {}, {}, error);
  return ofRequest(error) ?? internal(error);
}

function internal(error: unknown): ServiceError {
  return new ServiceError('internal', {}, {}, error);
}

/** What Express and its parsers say of a request: they name a status, and are right about it. */
function ofRequest(error: unknown): ServiceError | undefined {
  if (error instanceof URIError) return new ServiceError('address-encoding', {}, {}, error);
  if (!(error instanceof Error) || !('status' in error) || typeof error.status !== 'number') return undefined;
  const type = 'type' in error ? error.type : undefined;
  switch (error.status) {
    case 400:
      return type === 'entity.parse.failed'
        ? new ServiceError('body-not-json', {}, {}, error)
        : new ServiceError('not-understood', { why: error.message }, {}, error);
    case 404:
      return new ServiceError('nothing-here', {}, {}, error);
    case 413:
      return new ServiceError('body-too-large', {}, {}, error);
    case 415:
      return new ServiceError(
        type === 'encoding.unsupported' ? 'unknown-coding' : 'unknown-charset',
        {},
        {},
        error,
      );
    default:
      return error.status < 500 ? new ServiceError('refused', { why: error.message }, {}, error) : undefined;
  }
}

/** Connections that were refused, lost, or never answered; and statements that the database gave up. */
const AWAY =
  /^(?:ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOTFOUND|EAI_AGAIN|08\w{3}|57P0\d|57014|53300|55P03|3D000|55000)$/;
const AWAY_WORDS =
  /^(?:Connection terminated|Query read timeout|timeout exceeded when trying to connect|Knex: Timeout acquiring a connection)/;

function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (AWAY.test(codeOf(error) ?? '')) return true;
  // The driver gives these no code.
  const [, words = error.message] =
    / - (Connection terminated.*|Query read timeout.*|timeout exceeded.*)$/s.exec(error.message) ?? [];
  return AWAY_WORDS.test(words);
}

function codeOf(error: unknown): string | undefined {
  return error instanceof Error && 'code' in error && typeof error.code === 'string' ? error.code : undefined;
}
