import type { InsertOutcome, PreparedParts } from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { PackingCoding } from './packing.js';

const MAX_BYTES = 48 << 20;
const ENTRY_BYTES = 500;
/** A longer body is not waited for, so it is not kept either. */
export const MAX_CACHED_BODY = 256 << 10;
/** So many different bodies one after the other, and an address is taken to send another each time. */
const MAX_MISSES = 3;
/** How long such an address's bodies are not kept. */
const NOT_KEPT_MS = 60_000;

/** Whose body it is, and what was to be done with it. */
export interface CompressedKey {
  readonly host: string;
  readonly target: string;
  readonly coding: PackingCoding;
  /** What goes into the page, by its tag; empty for a body that passes as it is. */
  readonly tag: string;
  /** The charset that the transport declares. */
  readonly charset: string | undefined;
}

/** An answer as the origin sent it, and as it went out. */
export interface CompressedBody {
  readonly received: Buffer;
  readonly sent: Buffer;
  /** Undefined for a body that passes as it is. Parts are those of one release and path. */
  readonly parts: PreparedParts | undefined;
  readonly outcomes: readonly InsertOutcome[];
}

interface Entry {
  /** Undefined for an address that sends another body each time. */
  readonly body: CompressedBody | undefined;
  /** Bodies in a row that were not the one kept. */
  readonly misses: number;
}

/**
 * The last compressed body of each address. What goes out depends on what came in, the parts and the charset alone, so
 * it is used again where all three are the same: byte for byte, so that no validator is needed, and an origin that lies
 * about one is noticed. Bounded by weight; what was used longest ago goes first.
 */
export class CompressedCache {
  readonly #entries = new LRUCache<string, Entry>({
    maxSize: MAX_BYTES,
    sizeCalculation: ({ body }) => (body ? body.received.length + body.sent.length : 0) + ENTRY_BYTES,
  });

  /** The body to compare with what comes. */
  find(key: CompressedKey, parts: PreparedParts | undefined): CompressedBody | undefined {
    const body = this.#entries.get(nameOf(key))?.body;
    return body?.parts === parts ? body : undefined;
  }

  /** Whether it is worth the memory to keep what comes. */
  mayKeep(key: CompressedKey): boolean {
    const entry = this.#entries.peek(nameOf(key));
    return entry === undefined || entry.body !== undefined;
  }

  /** The body that was found came again. */
  hit(key: CompressedKey): void {
    const name = nameOf(key);
    const entry = this.#entries.peek(name);
    if (entry && entry.misses > 0) this.#entries.set(name, { body: entry.body, misses: 0 });
  }

  /** Another body than the one kept came. */
  keep(key: CompressedKey, body: CompressedBody): void {
    const name = nameOf(key);
    const known = this.#entries.peek(name);
    if (known && !known.body) return;
    const misses = known ? known.misses + 1 : 0;
    if (misses > MAX_MISSES) this.#entries.set(name, { body: undefined, misses }, { ttl: NOT_KEPT_MS });
    else this.#entries.set(name, { body, misses });
  }
}

function nameOf({ host, target, coding, tag, charset }: CompressedKey): string {
  return `${coding}\n${host}\n${target}\n${tag}\n${charset ?? ''}`;
}
