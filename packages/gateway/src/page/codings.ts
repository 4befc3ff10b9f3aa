import type { Transform } from 'node:stream';
import {
  constants,
  createBrotliCompress,
  createBrotliDecompress,
  createDeflate,
  createGunzip,
  createGzip,
  createInflate,
} from 'node:zlib';

/** Streams that undo and redo a content coding. */
export interface Coding {
  readonly decoder: Transform;
  readonly encoder: Transform;
}

/** Quick rather than small: the page is compressed while the visitor waits. */
const GZIP_LEVEL = 4;
const BROTLI_QUALITY = 4;

/** Makes the streams for a coding; replaced in tests that let one fail. Undefined for a coding that is not known. */
export type CodingFactory = (coding: string) => Coding | undefined;

export const createCoding: CodingFactory = (coding) => {
  // What is cut off is passed on as far as it goes, as a browser would show it.
  const cutOff = { finishFlush: constants.Z_SYNC_FLUSH };
  switch (coding) {
    case 'gzip':
      return { decoder: createGunzip(cutOff), encoder: createGzip({ level: GZIP_LEVEL }) };
    case 'deflate':
      return { decoder: createInflate(cutOff), encoder: createDeflate({ level: GZIP_LEVEL }) };
    case 'br':
      return {
        decoder: createBrotliDecompress({ finishFlush: constants.BROTLI_OPERATION_FLUSH }),
        encoder: createBrotliCompress({ params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } }),
      };
    default:
      return undefined;
  }
};
