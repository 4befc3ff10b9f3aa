import { DriverException, OptimisticLockError, UniqueConstraintViolationException } from '@mikro-orm/core';
import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { ProblemError } from './problems.js';

/** The one place where errors become answers. What is not foreseen is logged and answered without its details. */
export function createErrorHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) {
      log.error({ err: error, url: request.originalUrl }, 'failed after the answer had begun');
      next(error);
      return;
    }
    const problem = toProblemError(error);
    if (problem.code === 'internal' || problem.code === 'unavailable')
      log.error({ err: error, url: request.originalUrl }, problem.message);
    const body = problem.toProblem(request.originalUrl.split('?')[0]!);
    response.status(body.status).type('application/problem+json').send(JSON.stringify(body));
  };
}

/** Translates foreign errors once, here; above this line nobody reads a driver's code. */
function toProblemError(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof OptimisticLockError) {
    return new ProblemError(
      'changed-meanwhile',
      'Somebody else changed it at the same moment. Nothing of yours was changed: look again, then repeat.',
      {},
      error,
    );
  }
  if (error instanceof UniqueConstraintViolationException) {
    return new ProblemError(
      'conflict',
      'Something with this key or host exists already. Choose another.',
      {},
      error,
    );
  }
  if (error instanceof DriverException || isConnectionError(error)) {
    return new ProblemError(
      'unavailable',
      'The database does not answer. Published pages go on being served; try again in a moment.',
      {},
      error,
    );
  }
  const type = typeof error === 'object' && error !== null && 'type' in error ? error.type : undefined;
  if (type === 'entity.parse.failed')
    return new ProblemError('malformed-body', 'The body is not valid JSON.', {}, error);
  if (type === 'entity.too.large')
    return new ProblemError('too-large', 'The body is larger than 4 MB.', {}, error);
  if (error instanceof URIError)
    return new ProblemError('not-found', 'The address is not properly encoded.', {}, error);
  return new ProblemError(
    'internal',
    'Something went wrong in Pragmatica itself. The log says what; nothing was changed.',
    {},
    error,
  );
}

function isConnectionError(error: unknown): boolean {
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  return ['ECONNREFUSED', 'ECONNRESET', 'ENOENT', '57P01', '57P03'].includes(code);
}
