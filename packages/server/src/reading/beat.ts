import { createHash } from 'node:crypto';

/** Bytes of a digest by which code is known: nobody finds two codes with one. */
const DIGEST_BYTES = 16;
const COUNT_BYTES = 4;

/** A name for a code, of fixed length. */
export function codeDigest(code: string): string {
  return createHash('sha256')
    .update(code)
    .digest('hex')
    .slice(0, DIGEST_BYTES * 2);
}

/**
 * What a thread says of its work in memory that it shares with whoever waits for it: which code it works on. A thread
 * that hangs in a code can say nothing any more, but this it has said before.
 */
export class Beat {
  readonly memory: SharedArrayBuffer;
  /** Odd while a code is worked on; another number for each. */
  readonly #count: Int32Array;
  readonly #digest: Uint8Array;

  constructor(memory = new SharedArrayBuffer(COUNT_BYTES + DIGEST_BYTES)) {
    this.memory = memory;
    this.#count = new Int32Array(memory, 0, 1);
    this.#digest = new Uint8Array(memory, COUNT_BYTES);
  }

  begin(digest: string): void {
    this.#digest.set(Buffer.from(digest, 'hex'));
    Atomics.add(this.#count, 0, 1);
  }

  end(): void {
    Atomics.add(this.#count, 0, 1);
  }

  get count(): number {
    return Atomics.load(this.#count, 0);
  }

  /** The code that is worked on, if one is. */
  get digest(): string | undefined {
    return this.count % 2 === 1 ? Buffer.from(this.#digest).toString('hex') : undefined;
  }
}
