import { LRUCache } from 'lru-cache';

/** Wrong passwords before anybody has to wait. */
const FREE = 5;
/** The same for one address over all logins: several people may stand behind it. */
const FREE_BY_ADDRESS = 50;
const FIRST_DELAY_MS = 1_000;
const MAX_DELAY_MS = 15 * 60_000;
/** So long after the last failure all is forgotten. */
const FORGET_MS = 60 * 60_000;
const MAX_KEPT = 50_000;

interface Record {
  readonly failures: number;
  /** In milliseconds of the clock that counts them. */
  readonly until: number;
}

/**
 * Wrong passwords, counted by login and address, with delays that double. Only failures count, and only of whoever
 * fails: nobody is locked out by what somebody else tries from elsewhere.
 */
export class Attempts {
  readonly #now: () => number;
  readonly #failures: LRUCache<string, Record>;

  /** @param now - one that nobody sets: a clock that is put back would lock people out for as long */
  constructor(now: () => number = () => performance.now()) {
    this.#now = now;
    this.#failures = new LRUCache({ max: MAX_KEPT, ttl: FORGET_MS, perf: { now } });
  }

  /** Milliseconds to wait before the next attempt; 0 for none. */
  wait(login: string, address: string): number {
    const until = Math.max(...keys(login, address).map((key) => this.#failures.get(key)?.until ?? 0));
    return Math.max(0, until - this.#now());
  }

  failed(login: string, address: string): void {
    const [own, all] = keys(login, address);
    this.#count(own, FREE);
    this.#count(all, FREE_BY_ADDRESS);
  }

  /** The right password: this login's failures from this address are forgotten, the address's own are not. */
  succeeded(login: string, address: string): void {
    this.#failures.delete(keys(login, address)[0]);
  }

  #count(key: string, free: number): void {
    const failures = (this.#failures.get(key)?.failures ?? 0) + 1;
    const over = failures - free;
    const delay = over < 0 ? 0 : Math.min(FIRST_DELAY_MS * 2 ** over, MAX_DELAY_MS);
    this.#failures.set(key, { failures, until: this.#now() + delay });
  }
}

function keys(login: string, address: string): [own: string, all: string] {
  return [`${address} ${login.toLowerCase()}`, address];
}
