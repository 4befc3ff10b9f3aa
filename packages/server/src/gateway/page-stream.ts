import { Transform, type TransformCallback, type Duplex } from 'node:stream';
import {
  createBrotliCompress,
  createBrotliDecompress,
  createGunzip,
  createGzip,
  createInflate,
  createDeflate,
  constants,
} from 'node:zlib';
import { PageInserter, type InsertOutcome, type PreparedParts } from '@pragmatica/core';

export interface PageStreamOptions {
  readonly encoding: string | undefined;
  /** Something of ours failed; the page goes on as the origin sent it. */
  onFailure(error: unknown): void;
  onEnd(outcomes: readonly InsertOutcome[]): void;
}

/** Makes the inserter; replaced in tests that let it fail. */
export type InserterFactory = (
  parts: PreparedParts,
  encoding: string | undefined,
) => Pick<PageInserter, 'write' | 'end' | 'held' | 'outcomes'>;

export const createInserter: InserterFactory = (parts, encoding) => new PageInserter(parts, { encoding });

/** Puts the parts into a page on its way through. Should that fail, the rest of the page passes as it is. */
export function createPageStream(
  parts: PreparedParts,
  options: PageStreamOptions,
  create: InserterFactory = createInserter,
): Transform {
  const inserter = create(parts, options.encoding);
  let hasFailed = false;
  const attempt = (stream: Transform, run: () => Uint8Array[], rest: () => Uint8Array): void => {
    try {
      for (const piece of run()) stream.push(piece);
    } catch (error) {
      hasFailed = true;
      options.onFailure(error);
      const held = rest();
      if (held.length > 0) stream.push(held);
    }
  };
  return new Transform({
    transform(this: Transform, chunk: Buffer, _encoding: BufferEncoding, done: TransformCallback) {
      if (hasFailed) this.push(chunk);
      else
        attempt(
          this,
          () => inserter.write(chunk),
          () => inserter.held(),
        );
      done();
    },
    flush(this: Transform, done: TransformCallback) {
      if (!hasFailed)
        attempt(
          this,
          () => inserter.end(),
          () => inserter.held(),
        );
      if (!hasFailed) options.onEnd(inserter.outcomes);
      done();
    },
  });
}

/** Streams that undo and redo a content coding; undefined for none. */
export function codingStreams(coding: string | undefined): readonly [Duplex, Duplex] | undefined {
  const flush = { flush: constants.Z_SYNC_FLUSH, finishFlush: constants.Z_SYNC_FLUSH };
  switch (coding) {
    case 'gzip':
      return [createGunzip(flush), createGzip({ level: 6 })];
    case 'br':
      return [
        createBrotliDecompress(),
        createBrotliCompress({ params: { [constants.BROTLI_PARAM_QUALITY]: 5 } }),
      ];
    case 'deflate':
      return [createInflate(flush), createDeflate()];
    default:
      return undefined;
  }
}
