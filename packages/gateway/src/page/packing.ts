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
import { LRUCache } from 'lru-cache';
import { firstOf, tokens, type HeaderMap } from './headers.js';

export type PackingCoding = 'gzip' | 'br';

/** What is shorter gains nothing. */
const SHORTEST = 256;
/** A longer one is a download: it goes out as it is. */
const LONGEST = 8 << 20;
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
  if (length < SHORTEST || length > LONGEST) return false;
  if (/\bno-transform\b/i.test([headers['cache-control'] ?? ''].flat().join())) return false;
  return TEXT.test(firstOf(headers['content-type']) ?? '');
}

/**
 * The coding that a client prefers of those that answers are packed in (RFC 9110, 12.5.3); gzip, which is quicker,
 * where both are as good to it.
 */
export function preferredCoding(accepted: string | undefined): PackingCoding | undefined {
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

const MOST_BYTES = 48 << 20;
const ENTRY_BYTES = 500;
/** So many different bodies one after the other, and an address is taken to send another each time. */
const MOST_MISSES = 3;
/** How long such an address's bodies are not kept. */
const NOT_KEPT_MS = 60_000;

interface PackedBody {
  /** Undefined for an address that sends another body each time. */
  readonly kept: { readonly body: Buffer; readonly packed: Buffer } | undefined;
  /** Bodies in a row that were not the one kept. */
  readonly misses: number;
}

/**
 * The last packed body of each address. It is used again only for the very same bytes, so that it needs no validator,
 * and an origin that lies about one is noticed. Bounded by weight; what was used longest ago goes first.
 */
export class PackedBodies {
  readonly #bodies = new LRUCache<string, PackedBody>({
    maxSize: MOST_BYTES,
    sizeCalculation: ({ kept }) => (kept ? kept.body.length + kept.packed.length : 0) + ENTRY_BYTES,
  });

  /** @param key - of the address; undefined where nothing may be kept */
  pack(key: string | undefined, body: Buffer, coding: PackingCoding): Buffer {
    if (key === undefined) return packAtOnce(body, coding);
    const name = `${coding}\n${key}`;
    const known = this.#bodies.get(name);
    if (known?.kept?.body.equals(body) === true) {
      if (known.misses > 0) this.#bodies.set(name, { kept: known.kept, misses: 0 });
      return known.kept.packed;
    }
    const packed = packAtOnce(body, coding);
    if (known && !known.kept) return packed;
    const misses = known ? known.misses + 1 : 0;
    if (misses > MOST_MISSES) this.#bodies.set(name, { kept: undefined, misses }, { ttl: NOT_KEPT_MS });
    else this.#bodies.set(name, { kept: { body, packed }, misses });
    return packed;
  }
}
