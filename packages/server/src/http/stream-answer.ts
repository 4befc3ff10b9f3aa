import type { Request, Response } from 'express';

/** How a stream of events is written, by media type; the first is what clients without a wish get. */
const FORMATS = {
  'application/x-ndjson': (event: string) => `${event}\n`,
  // JSON has no line breaks, so an event is one line of data (HTML Standard, 9.2.6).
  'text/event-stream': (event: string) => `data: ${event}\n\n`,
} as const;

/** Answers with events as they come. When the client leaves, the generator is ended, and with it the work. */
export async function streamAnswer(
  events: AsyncIterable<unknown>,
  request: Request,
  response: Response,
): Promise<void> {
  const wanted = request.accepts(Object.keys(FORMATS));
  const type = wanted === 'text/event-stream' ? wanted : 'application/x-ndjson';
  const iterator = events[Symbol.asyncIterator]();
  response.on('close', () => void iterator.return?.());
  for (;;) {
    const next = await iterator.next();
    if (next.done === true || response.destroyed) break;
    if (!response.headersSent) response.status(200).setHeader('Content-Type', type);
    if (!response.write(FORMATS[type](JSON.stringify(next.value)))) {
      await new Promise((resolve) => {
        response.once('drain', resolve);
        response.once('close', resolve);
      });
    }
  }
  response.end();
}
