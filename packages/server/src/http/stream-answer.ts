import type { Request, Response } from 'express';
import { ServiceError, type ErrorCode } from '../errors.js';

/** How a stream of events is written, by media type; the first is what clients without a wish get. */
const FORMATS = {
  'application/x-ndjson': (event: string) => `${event}\n`,
  // JSON has no line breaks, so an event is one line of data (HTML Standard, 9.2.6).
  'text/event-stream': (event: string) => `data: ${event}\n\n`,
} as const;

const REFUSED: readonly ErrorCode[] = ['not-signed-in', 'forbidden', 'not-found'];

const OVER = { done: true, value: undefined } as const;

/** How often it is asked whether whoever gets a stream still may. */
const RECHECK_MS = 3_000;

export interface StreamOptions {
  /** Rejects once whoever asked may not have it any more; undefined where that ends nothing. */
  readonly admit: (() => Promise<unknown>) | undefined;
  /** The last event where something goes wrong after the first one; the connection breaks when left out. */
  readonly failed?: (error: unknown) => unknown;
}

/**
 * Answers with events as they come. When the client leaves, or may not have it any more, the generator is ended, and with it the
 * work.
 */
export async function streamAnswer(
  events: AsyncIterable<unknown>,
  request: Request,
  response: Response,
  { admit, failed }: StreamOptions,
): Promise<void> {
  const wanted = request.accepts(Object.keys(FORMATS));
  const type = wanted === 'text/event-stream' ? wanted : 'application/x-ndjson';
  const iterator = events[Symbol.asyncIterator]();
  const recheck = setInterval(() => {
    admit?.().catch((error: unknown) => {
      // A database that is away for a moment takes nobody’s rights.
      if (error instanceof ServiceError && REFUSED.includes(error.code)) response.destroy();
    });
  }, RECHECK_MS);
  response.on('close', () => {
    clearInterval(recheck);
    void iterator.return?.();
  });
  for (;;) {
    const next = await iterator.next().catch((error: unknown) => {
      if (failed === undefined || !response.headersSent) throw error;
      response.write(FORMATS[type](JSON.stringify(failed(error))));
      return OVER;
    });
    if (next.done === true || response.destroyed) break;
    if (!response.headersSent) {
      response.status(200).setHeader('Content-Type', type);
      // Proxies that gather answers hand this one on as it comes.
      response.setHeader('X-Accel-Buffering', 'no');
    }
    if (!response.write(FORMATS[type](JSON.stringify(next.value)))) {
      await new Promise((resolve) => {
        response.once('drain', resolve);
        response.once('close', resolve);
      });
    }
  }
  response.end();
}
