import { fileURLToPath } from 'node:url';
import { speechKey, type GivenUp } from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import { Beat } from './beat.js';
import type { TaskInput, TaskName, TaskResult } from './tasks.js';
import type { Order } from './thread.js';
import { threadTimeMs } from './thread-time.js';

export interface ReaderLimits {
  /** For one code, in one step of the work on it: of the thread's own time, where the system tells that. */
  readonly codeMs: number;
  /** For a task as a whole, of the same time; waiting not counted. */
  readonly taskMs: number;
  /** Of a thread. */
  readonly memoryMb: number;
  readonly threads: number;
}

export const READER_LIMITS: ReaderLimits = { codeMs: 2_000, taskMs: 30_000, memoryMb: 768, threads: 2 };

/**
 * Node 20.19 ends the whole process when a thread is ended while `require` loads an ES module, which is how
 * the pool loads a thread's code; told that there is no such thing, the pool imports it.
 */
const LOADED_WITH = ['--no-experimental-require-module'];

const LOOKED_EVERY_MS = 50;
/** On a machine that is so much too busy that a thread gets one part in so many of a processor, time is up all the same. */
const BUSIEST = 10;
const STACK_MB = 4;
/** So many codes of one task are given up before the task is: each costs a thread. */
const MAX_GIVEN_UP = 20;
const GIVEN_UP_KEPT = 10_000;
const MAX_QUEUE_LENGTH = 2_000;

/** A task was not done within its bounds, though no one code was to blame. */
export class ReadingError extends Error {
  override name = 'ReadingError';
}

/**
 * Threads that read what strangers wrote. One that takes too long over a code, or too much memory, is ended; the code
 * is remembered and not read again, and the task is done without it. Nothing that is pasted holds up the service.
 */
export class Readers {
  readonly #pool: Piscina<Order, unknown>;
  readonly #limits: ReaderLimits;
  readonly #log: Logger;
  /** By digest of the code. */
  readonly #givenUp = new LRUCache<string, GivenUp>({ max: GIVEN_UP_KEPT });

  constructor(log: Logger, limits: Partial<ReaderLimits> = {}) {
    this.#limits = { ...READER_LIMITS, ...limits };
    this.#log = log;
    this.#pool = new Piscina({
      filename: fileURLToPath(new URL('./thread.js', import.meta.url)),
      name: 'run',
      minThreads: 1,
      maxThreads: this.#limits.threads,
      maxQueue: MAX_QUEUE_LENGTH,
      idleTimeout: Infinity,
      execArgv: LOADED_WITH,
      resourceLimits: { maxOldGenerationSizeMb: this.#limits.memoryMb, stackSizeMb: STACK_MB },
    });
  }

  /**
   * @param codeMs - for one code, where nobody waits for the task
   * @throws ReadingError, and whatever the task throws
   */
  async run<N extends TaskName>(
    name: N,
    input: TaskInput<N>,
    codeMs = this.#limits.codeMs,
  ): Promise<TaskResult<N>> {
    for (let round = 0; round <= MAX_GIVEN_UP; round++) {
      const beat = new Beat();
      const watch = new Watch(beat, { ...this.#limits, codeMs });
      try {
        const givenUp = new Map(this.#givenUp.entries());
        const order: Order = { name, input, beat: beat.memory, givenUp, speech: speechKey() };
        return (await this.#pool.run(order, { signal: watch.signal })) as TaskResult<N>;
      } catch (error) {
        const why = watch.ended ?? (isOutOfMemory(error) ? 'memory' : undefined);
        if (why === undefined) throw error;
        const { digest } = beat;
        this.#log.warn({ task: name, code: digest, why }, 'a reader was ended');
        if (digest === undefined) throw new ReadingError(`${name}: over its bounds (${why})`);
        this.#givenUp.set(
          digest,
          why === 'memory' ? { what: 'memory' } : { what: 'time', seconds: codeMs / 1000 },
        );
      } finally {
        watch.stop();
      }
    }
    throw new ReadingError(`${name}: too many codes that cannot be read`);
  }

  async close(): Promise<void> {
    await this.#pool.destroy();
  }
}

/** Looks at a beat now and then, and ends the task where it stands still for too long. */
class Watch {
  readonly #abort = new AbortController();
  readonly #timer: NodeJS.Timeout;
  ended: 'time' | undefined;

  constructor(beat: Beat, { codeMs, taskMs }: ReaderLimits) {
    let since: Moment | undefined;
    let began: Moment | undefined;
    let count = beat.count;
    this.#timer = setInterval(() => {
      const now = momentOf(beat);
      if (beat.count !== count) {
        count = beat.count;
        since = now;
        began ??= now;
      }
      const isStuck = beat.digest !== undefined && since !== undefined && spentMs(since, now) > codeMs;
      if (isStuck || (began !== undefined && spentMs(began, now) > taskMs)) this.#end();
    }, LOOKED_EVERY_MS);
    // Also for a task that works on no code: waiting in the queue counts, so it is given more.
    this.#deadline = setTimeout(() => this.#end(), taskMs * 4);
  }

  readonly #deadline: NodeJS.Timeout;

  get signal(): AbortSignal {
    return this.#abort.signal;
  }

  stop(): void {
    clearInterval(this.#timer);
    clearTimeout(this.#deadline);
  }

  #end(): void {
    this.ended = 'time';
    this.#abort.abort();
    this.stop();
  }
}

interface Moment {
  readonly wall: number;
  /** The thread's own time, where it is known. */
  readonly own: number | undefined;
}

function momentOf({ thread }: Beat): Moment {
  return { wall: Date.now(), own: thread === undefined ? undefined : threadTimeMs(thread) };
}

/** What a thread has used between two moments, in milliseconds. */
function spentMs(from: Moment, to: Moment): number {
  const wall = to.wall - from.wall;
  if (from.own === undefined || to.own === undefined) return wall;
  return Math.max(to.own - from.own, wall / BUSIEST);
}

function isOutOfMemory(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
}
