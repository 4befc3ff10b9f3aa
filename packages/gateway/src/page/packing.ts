import {
  brotliCompressSync,
  constants,
  createBrotliCompress,
  createGzip,
  gzipSync,
  type BrotliOptions,
  type ZlibOptions,
} from 'node:zlib';
import type { Transform } from 'node:stream';
import { firstOf, tokens, type HeaderMap } from './headers.js';

export type PackingCoding = 'gzip' | 'br';

/** What is shorter gains nothing. */
const MIN_LENGTH = 256;
/** A longer one is a download: it goes out as it is. */
const MAX_LENGTH = 8 << 20;
/** A body up to this is packed in one go, when it is whole. */
export const PACKED_AT_ONCE = 1 << 20;

/** Texts, by media type; pictures, films and archives are packed by their own kind. */
const TEXT =
  /^(?:text\/(?!event-stream)[\w.+-]+|application\/(?:javascript|ecmascript|json|ld\+json|manifest\+json|xml|rss\+xml|atom\+xml|xhtml\+xml|wasm)|image\/svg\+xml|[\w-]+\/[\w.-]+\+(?:json|xml))\s*(?:;|$)/i;

/** Whether an answer is one that would be packed for a client that takes that; its `Vary` says so to all. */
export function isPackable(status: number, headers: HeaderMap): boolean {
  if (status < 200 || status === 204 || status === 206 || status === 304) return false;
  if (headers['content-encoding'] !== undefined || headers['content-range'] !== undefined) return false;
  const length = Number(firstOf(headers['content-length']) ?? NaN);
  if (length < MIN_LENGTH || length > MAX_LENGTH) return false;
  if (/\bno-transform\b/i.test([headers['cache-control'] ?? ''].flat().join())) return false;
  return TEXT.test(firstOf(headers['content-type']) ?? '');
}

/**
 * The coding that a client prefers of those that answers are packed in (RFC 9110, 12.5.3); the favourite
 * where both are as good to it.
 *
 * @param favourite - gzip is quicker, Brotli smaller
 */
export function preferredCoding(
  accepted: string | undefined,
  favourite: PackingCoding = 'gzip',
): PackingCoding | undefined {
  if (accepted === undefined) return undefined;
  const weights = new Map(
    tokens(accepted).map((item) => {
      const [name, ...parameters] = item.split(';');
      const weight = parameters
        .map((one) => /^\s*q=([\d.]+)\s*$/.exec(one)?.[1])
        .find((one) => one !== undefined);
      return [name!.trim(), weight === undefined ? 1 : Number(weight)];
    }),
  );
  const of = (name: string): number => weights.get(name) ?? weights.get('*') ?? 0;
  if (of('gzip') === 0 && of('br') === 0) return undefined;
  if (of('gzip') === of('br')) return favourite;
  return of('br') > of('gzip') ? 'br' : 'gzip';
}

/** Small pages need no large window, and most of what packing them costs is making one. */
const SMALL = 8 << 10;

function gzipOptions(length: number): ZlibOptions {
  return length <= SMALL ? { level: 1, windowBits: 13, memLevel: 6, chunkSize: SMALL } : { level: 1 };
}

const BROTLI: BrotliOptions = { params: { [constants.BROTLI_PARAM_QUALITY]: 3 } };

/** Packs a body that is whole. */
export function packAtOnce(body: Buffer, coding: PackingCoding): Buffer {
  return coding === 'gzip' ? gzipSync(body, gzipOptions(body.length)) : brotliCompressSync(body, BROTLI);
}

/** Packs a body that comes bit by bit; `flush` lets out what is in. */
export function createPacker(coding: PackingCoding): Transform & { flush(kind: number): void } {
  return coding === 'gzip' ? createGzip({ level: 1 }) : createBrotliCompress(BROTLI);
}

export function flushKind(coding: PackingCoding): number {
  return coding === 'gzip' ? constants.Z_SYNC_FLUSH : constants.BROTLI_OPERATION_FLUSH;
}
