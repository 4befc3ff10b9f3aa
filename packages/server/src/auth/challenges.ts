import { SealError, type SecretBox } from '../outgoing/secret-box.js';

/** What somebody's browser is to come back with. */
export interface Challenge {
  /** Random; by it a second time is told from the first. */
  readonly challenge: string;
}

interface Lasting<C> {
  readonly challenge: C;
  readonly until: number;
}

/** Challenges that are out: sealed, so that nothing is kept of those that nobody comes back with, and each taken once. */
export class Challenges<C extends Challenge> {
  readonly #spent = new Map<string, number>();
  readonly #box: SecretBox;
  readonly #purpose: string;
  readonly #lifeMs: number;

  /** @param purpose - a challenge is good for nothing else */
  constructor(box: SecretBox, purpose: string, lifeMs: number) {
    this.#box = box;
    this.#purpose = purpose;
    this.#lifeMs = lifeMs;
  }

  give(challenge: C): string {
    const lasting: Lasting<C> = { challenge, until: Date.now() + this.#lifeMs };
    return this.#box.seal(JSON.stringify(lasting), this.#purpose);
  }

  /** @returns undefined for one that was not given, is too old, or came back before */
  take(state: string): C | undefined {
    const now = Date.now();
    for (const [challenge, until] of this.#spent) if (until < now) this.#spent.delete(challenge);
    const given = this.#open(state);
    if (!given || given.until < now || this.#spent.has(given.challenge.challenge)) return undefined;
    this.#spent.set(given.challenge.challenge, given.until);
    return given.challenge;
  }

  #open(state: string): Lasting<C> | undefined {
    try {
      return JSON.parse(this.#box.open(state, this.#purpose)) as Lasting<C>;
    } catch (error) {
      if (error instanceof SealError) return undefined;
      throw error;
    }
  }
}
