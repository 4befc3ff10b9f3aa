import type { InsertOutcome, PreparedParts } from '@pragmatica/core';
import { MAX_CACHED_BODY, type CompressedCache, type CompressedKey } from './compressed-cache.js';

/** Keeps what an origin sends until it has gone out compressed, for the next who asks for it. */
export class BodyRecording {
  readonly #cache: CompressedCache;
  readonly #key: CompressedKey;
  readonly #parts: PreparedParts | undefined;
  #received: Buffer[] = [];
  #length = 0;
  #outcomes: readonly InsertOutcome[] = [];

  constructor(cache: CompressedCache, key: CompressedKey, parts: PreparedParts | undefined) {
    this.#cache = cache;
    this.#key = key;
    this.#parts = parts;
  }

  add(chunk: Buffer): void {
    this.#length += chunk.length;
    if (this.#length <= MAX_CACHED_BODY) this.#received.push(chunk);
    else this.#received = [];
  }

  /** What became of the parts. */
  inserted(outcomes: readonly InsertOutcome[]): void {
    this.#outcomes = outcomes;
  }

  finish(sent: Buffer): void {
    if (this.#length > MAX_CACHED_BODY) return;
    const received = Buffer.concat(this.#received, this.#length);
    this.#cache.keep(this.#key, { received, sent, parts: this.#parts, outcomes: this.#outcomes });
  }
}
