const PAUSE_MS = 4;
/** So many pauses in a row, and no longer; each is longer than a pause only where the process is busy. */
const MAX_PAUSES = 8;

/**
 * A body comes in bursts. This tells when the first is over: when nothing has come for a moment, or when it has gone on
 * for long enough.
 */
export class Burst {
  readonly #received: () => number;
  readonly #onOver: () => void;
  #timer: NodeJS.Timeout | undefined;
  #isOver = false;

  /** @param received - bytes that have come so far */
  constructor(received: () => number, onOver: () => void) {
    this.#received = received;
    this.#onOver = onOver;
  }

  get isOver(): boolean {
    return this.#isOver;
  }

  /** Begins to watch, unless it does already. */
  watch(): void {
    if (!this.#timer && !this.#isOver) this.#wait(1);
  }

  /** What comes from here on is no longer of the burst. */
  end(): void {
    this.cancel();
    this.#isOver = true;
  }

  /** Watches no longer; another burst may begin. */
  cancel(): void {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#isOver = false;
  }

  #wait(pauses: number): void {
    const since = performance.now();
    const before = this.#received();
    const timer = setTimeout(() => {
      // What has come while others were served is taken in first: a busy process is no slow origin.
      setImmediate(() => {
        if (this.#timer !== timer) return;
        const isBusy = performance.now() - since > 2 * PAUSE_MS;
        const isComing = this.#received() > before || isBusy;
        if (isComing && pauses < MAX_PAUSES) {
          this.#wait(pauses + 1);
          return;
        }
        this.end();
        this.#onOver();
      });
    }, PAUSE_MS);
    this.#timer = timer;
  }
}
