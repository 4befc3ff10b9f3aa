import { SealError, type SecretBox } from '../outgoing/secret-box.js';

const LIFE_MS = 5 * 60_000;

const PURPOSE = 'passkey challenge';

interface Challenge {
  readonly challenge: string;
  /** Whose passkey is made; null where somebody signs in. */
  readonly member: number | null;
  readonly until: number;
}

/** Challenges that are out: sealed, so that nothing is kept of those that nobody comes back with, and each taken once. */
export class Challenges {
  readonly #spent = new Map<string, number>();
  readonly #box: SecretBox;
  readonly #now: () => number;

  constructor(box: SecretBox, now: () => number = Date.now) {
    this.#box = box;
    this.#now = now;
  }

  give(challenge: string, member: number | null): string {
    const given: Challenge = { challenge, member, until: this.#now() + LIFE_MS };
    return this.#box.seal(JSON.stringify(given), PURPOSE);
  }

  /** @returns undefined for one that was not given, is too old, or came back before */
  take(state: string, member: number | null): string | undefined {
    const now = this.#now();
    for (const [challenge, until] of this.#spent) if (until < now) this.#spent.delete(challenge);
    const given = this.#open(state);
    if (!given || given.member !== member || given.until < now || this.#spent.has(given.challenge))
      return undefined;
    this.#spent.set(given.challenge, given.until);
    return given.challenge;
  }

  #open(state: string): Challenge | undefined {
    try {
      return JSON.parse(this.#box.open(state, PURPOSE)) as Challenge;
    } catch (error) {
      if (error instanceof SealError) return undefined;
      throw error;
    }
  }
}
