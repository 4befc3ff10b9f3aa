import { readCode, unreadFacts, type GivenUp } from './read-code.js';
import type { Facts } from './types.js';

/** A code and what was read out of it: one object for as long as it is remembered. */
export interface ReadCode {
  readonly code: string;
  readonly facts: Facts;
  /** It took too long before; nothing is tried with it again. */
  readonly isGivenUp?: boolean;
}

/** What watches over the reading of strangers' code, where somebody does. */
export interface ReadingWatch {
  /** Work on one code begins, which takes as long as that code lets it. */
  begin(code: string): void;
  /** It ends. */
  end(): void;
  /** Why a code is not to be read again; undefined for one that is. */
  givenUp(code: string): GivenUp | undefined;
}

/** Codes that were read: reading is most of the work, and most code stays the same from edit to edit. */
export class FactsCache {
  readonly #kept = new Map<string, ReadCode>();
  readonly #most: number;
  readonly #watch: ReadingWatch | undefined;

  constructor(most = 20_000, watch?: ReadingWatch) {
    this.#most = most;
    this.#watch = watch;
  }

  read(code: string): ReadCode {
    let read = this.#kept.get(code);
    if (!read) {
      if (this.#kept.size >= this.#most) this.#kept.clear();
      this.#kept.set(code, (read = this.#read(code)));
    }
    return read;
  }

  /** Runs work that takes as long as one code lets it. */
  watched<T>({ code }: ReadCode, work: () => T): T {
    this.#watch?.begin(code);
    const result = work();
    this.#watch?.end();
    return result;
  }

  #read(code: string): ReadCode {
    const why = this.#watch?.givenUp(code);
    if (why !== undefined) return { code, facts: unreadFacts(code, why), isGivenUp: true };
    this.#watch?.begin(code);
    const facts = readCode(code);
    this.#watch?.end();
    return { code, facts };
  }
}
