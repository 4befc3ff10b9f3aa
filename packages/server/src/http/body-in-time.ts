import type { RequestHandler } from 'express';

/** So long a request may take to come. */
const BODY_MS = 300_000;

/**
 * Gives up whoever sends a request too slowly; the server itself has no such limit, as a backup may take hours.
 *
 * @param isLong - whether a path is one that takes its time
 */
export function bodyInTime(isLong: (path: string) => boolean): RequestHandler {
  return (request, _response, next) => {
    if (!isLong(request.path)) {
      const late = setTimeout(() => request.destroy(), BODY_MS).unref();
      const stop = (): void => clearTimeout(late);
      request.once('end', stop);
      request.once('close', stop);
    }
    next();
  };
}
