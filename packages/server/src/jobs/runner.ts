import type { Logger } from 'pino';
import type { Job } from './job.js';

/** Runs jobs round by round, each by itself: one that fails or takes long holds up no other. */
export class JobRunner {
  readonly #abort = new AbortController();
  readonly #lines: readonly Line[];

  /** Begins with the first round of each. */
  constructor(jobs: readonly Job[], log: Logger) {
    this.#lines = jobs.map((job) => new Line(job, log, this.#abort.signal));
  }

  /** Something was changed: jobs that follow changes begin their next round now, those in one make another after it. */
  wake(): void {
    for (const line of this.#lines) if (line.followsChanges) line.wake();
  }

  /** Lets rounds that are under way end early, and waits for them. */
  async close(): Promise<void> {
    this.#abort.abort();
    for (const line of this.#lines) line.wake();
    await Promise.all(this.#lines.map((line) => line.ended));
  }
}

/** The rounds of one job. */
class Line {
  readonly ended: Promise<void>;
  readonly #job: Job;
  readonly #log: Logger;
  #isWoken = false;
  #wakeUp: (() => void) | undefined;

  constructor(job: Job, log: Logger, signal: AbortSignal) {
    this.#job = job;
    this.#log = log;
    this.ended = this.#loop(signal);
  }

  get followsChanges(): boolean {
    return this.#job.followsChanges === true;
  }

  wake(): void {
    this.#isWoken = true;
    this.#wakeUp?.();
  }

  async #loop(signal: AbortSignal): Promise<void> {
    const isOver = (): boolean => signal.aborted;
    const isWoken = (): boolean => this.#isWoken;
    while (!isOver()) {
      this.#isWoken = false;
      const isDone = await this.#round(signal);
      if (isOver()) break;
      // What failed is not tried again at once, whoever asks.
      if (!isDone) await this.#wait(FAILED_MS, isOver);
      else if (!isWoken()) await this.#wait(this.#job.everyMs, () => true);
    }
  }

  /** @returns whether it went well */
  async #round(signal: AbortSignal): Promise<boolean> {
    try {
      await this.#job.run(signal);
      return true;
    } catch (error) {
      if (!signal.aborted) this.#log.warn({ err: error, job: this.#job.name }, 'a round of a job failed');
      return false;
    }
  }

  /** @param mayWake - whether somebody who wakes it ends the wait */
  async #wait(ms: number, mayWake: () => boolean): Promise<void> {
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ms).unref();
      this.#wakeUp = () => {
        if (!mayWake()) return;
        clearTimeout(timer);
        resolve();
      };
    });
    this.#wakeUp = undefined;
  }
}

/** So long a job that failed is left alone. */
const FAILED_MS = 1_000;
