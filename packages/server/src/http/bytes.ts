import type { Request, Response } from 'express';
import { ServiceError } from '../errors.js';

/** So long the other side may do nothing. */
const STALL_MS = 120_000;

/**
 * Answers with bytes as they come. What goes wrong before the first one is answered as any error; after it the connection breaks, so
 * that nobody takes a half for the whole.
 */
export async function sendBytes(
  bytes: AsyncIterable<Uint8Array>,
  type: string,
  response: Response,
): Promise<void> {
  const iterator = bytes[Symbol.asyncIterator]();
  response.on('close', () => void iterator.return?.());
  try {
    for (;;) {
      const next = await iterator.next();
      if (next.done === true || response.destroyed) break;
      if (!response.headersSent) response.status(200).setHeader('Content-Type', type);
      if (!response.write(next.value)) await drained(response);
    }
    response.end();
  } catch (error) {
    if (response.headersSent) response.destroy();
    throw error;
  }
}

/** Whoever takes nothing for long is given up: the database holds a snapshot for them. */
async function drained(response: Response): Promise<void> {
  await new Promise<void>((resolve) => {
    const stall = setTimeout(() => response.destroy(), STALL_MS);
    const done = (): void => {
      clearTimeout(stall);
      resolve();
    };
    response.once('drain', done);
    response.once('close', done);
  });
}

/** The bytes that a request brings. @throws ServiceError where they stop coming before their end */
export async function* bytesOf(request: Request): AsyncGenerator<Uint8Array> {
  const iterator = request.iterator({ destroyOnReturn: false }) as AsyncIterator<Uint8Array>;
  try {
    for (;;) {
      const stall = setTimeout(() => request.destroy(), STALL_MS);
      const next = await iterator.next().finally(() => clearTimeout(stall));
      if (next.done === true) break;
      yield next.value;
    }
  } catch (error) {
    throw new ServiceError('upload-broken-off', {}, {}, error);
  } finally {
    // Only then does the request flow by itself.
    await iterator.return?.();
    discardRest(request);
  }
  if (!request.complete) throw new ServiceError('upload-broken-off', {});
}

/** What nobody reads any more is let in for a while, so that whoever sends it hears the answer. */
function discardRest(request: Request): void {
  if (request.complete || request.destroyed) return;
  request.resume();
  const late = setTimeout(() => request.destroy(), STALL_MS).unref();
  request.once('close', () => clearTimeout(late));
}
