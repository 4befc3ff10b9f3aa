import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { ReadingError } from '../reading/readers.js';
import { storageProblem } from '../storage/errors.js';
import { ServiceError, databaseAway } from '../errors.js';
import { speakIn } from '../language/speech.js';
import { languageFor } from '../language/language-of.js';
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
    const language = languageFor(request);
    const body = speakIn(language, () =>
      toProblem(problem, request.originalUrl.split('?')[0]!, localeOf(request)),
    );
    response.setHeader('Content-Language', language.tag);
    const { retryAfter } = problem.details;
    if (retryAfter !== undefined) response.setHeader('Retry-After', retryAfter);
    response.status(body.status).type('application/problem+json').send(JSON.stringify(body));
  };
}

/** Translates foreign errors once, here; above this line nobody knows what threw them. */
export function toServiceError(error: unknown): ServiceError {
  if (error instanceof ServiceError) return error as ServiceError;
  if (error instanceof ReadingError) return new ServiceError('too-much-to-read', {}, {}, error);
  const problem = storageProblem(error);
  if (problem === 'away') return databaseAway(error);
  if (problem === 'full') return new ServiceError('disk-full', {}, {}, error);
  if (problem) return new ServiceError(problem, {}, {}, error);
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
