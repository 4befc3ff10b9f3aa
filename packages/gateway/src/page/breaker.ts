import { LRUCache } from 'lru-cache';

/** Failures of insertion in a row after which a page is left alone. */
const FAILURES = 3;
const PAUSE_MS = 60_000;
const MAX_PAGES = 1_000;

/**
 * A circuit breaker for each page: where insertion keeps failing it is not even tried for a while, then tried once
 * again. Bounded: the page that failed longest ago is forgotten first.
 */
export class Breaker {
  readonly #pages = new LRUCache<string, { readonly failures: number; readonly until: number }>({
    max: MAX_PAGES,
  });
  readonly #now: () => number;

  constructor(now: () => number = Date.now) {
    this.#now = now;
  }

  /** Whether insertion is to be tried. After the pause it is; the next failure starts another pause. */
  allows(page: string): boolean {
    const record = this.#pages.get(page);
    return record === undefined || record.failures < FAILURES || this.#now() >= record.until;
  }

  /** @returns whether insertion is off for the page now */
  failed(page: string): boolean {
    const failures = (this.#pages.get(page)?.failures ?? 0) + 1;
    this.#pages.set(page, { failures, until: this.#now() + PAUSE_MS });
    return failures >= FAILURES;
  }

  succeeded(page: string): void {
    if (this.#pages.size > 0) this.#pages.delete(page);
  }
}
