import { Burst } from './burst.js';
import type { CompressedBody } from './compressed-cache.js';
import type { PageSink } from './page-sinks.js';

export interface CachedPageOutput {
  /** Every byte came as it is known. */
  same(): void;
  /** Another body comes, or this one slowly: what came so far goes the ordinary way, and so does the rest. */
  another(received: readonly Buffer[], isSlow: boolean): void;
}

/** Compares a body with the one that came last time, and holds it back as long as it is the same. */
export class CachedPageSink implements PageSink {
  readonly #known: Buffer;
  readonly #output: CachedPageOutput;
  readonly #burst: Burst;
  #length = 0;

  constructor({ received }: CompressedBody, output: CachedPageOutput) {
    this.#known = received;
    this.#output = output;
    this.#burst = new Burst(
      () => this.#length,
      () => output.another([this.#known.subarray(0, this.#length)], true),
    );
  }

  write(chunk: Buffer): void {
    const end = this.#length + chunk.length;
    if (end > this.#known.length || chunk.compare(this.#known, this.#length, end) !== 0) {
      this.#giveUp([chunk]);
      return;
    }
    this.#length = end;
    this.#burst.watch();
  }

  end(): void {
    this.#burst.cancel();
    if (this.#length === this.#known.length) this.#output.same();
    else this.#giveUp([]);
  }

  destroy(): void {
    this.#burst.cancel();
  }

  #giveUp(rest: readonly Buffer[]): void {
    this.#burst.cancel();
    this.#output.another([this.#known.subarray(0, this.#length), ...rest], false);
  }
}
