import { createHash } from 'node:crypto';

/** Bytes of a digest by which code is known: nobody finds two codes with one. */
const DIGEST_BYTES = 16;
const NUMBER_BYTES = 4;

/** A name for a code, of fixed length. */
export function codeDigest(code: string): string {
  return createHash('sha256')
    .update(code)
    .digest('hex')
    .slice(0, DIGEST_BYTES * 2);
}

/**
 * What a thread says of its work in memory that it shares with whoever waits for it: which thread it is, and which code
 * it works on. A thread that hangs in a code can say nothing any more, but this it has said before.
 */
export class Beat {
  readonly memory: SharedArrayBuffer;
  /** Odd while a code is worked on; another number for each. */
  readonly #count: Int32Array;
  readonly #thread: Int32Array;
  readonly #digest: Uint8Array;

  constructor(memory = new SharedArrayBuffer(2 * NUMBER_BYTES + DIGEST_BYTES)) {
    this.memory = memory;
    this.#count = new Int32Array(memory, 0, 1);
    this.#thread = new Int32Array(memory, NUMBER_BYTES, 1);
    this.#digest = new Uint8Array(memory, 2 * NUMBER_BYTES);
  }

  /** @param thread - the system's number for it, where it is known */
  take(thread: number | undefined): void {
    Atomics.store(this.#thread, 0, thread ?? 0);
  }

  /** The thread that does the work, as the system numbers it; undefined before it began and where it is not known. */
  get thread(): number | undefined {
    return Atomics.load(this.#thread, 0) || undefined;
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
