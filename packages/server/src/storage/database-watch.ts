import { setTimeout as sleep } from 'node:timers/promises';
import { endConnection } from '@pragmatica/runtime';
import pg from 'pg';

const EVERY_MS = 1_000;
/** A database that is frozen, not dead, takes the question and never answers. */
const ANSWER_MS = 2_000;
const TICK_MS = 100;

/**
 * Asks the database now and then, on a connection of its own, whether it answers; so that a call can be refused at once
 * instead of waiting for what does not come.
 */
export class DatabaseWatch {
  readonly #url: string;
  #client: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #isClosed = false;
  #isAnswering = true;

  constructor(url: string) {
    this.#url = url;
  }

  /** As of at most three seconds ago. */
  get isAnswering(): boolean {
    return this.#isAnswering;
  }

  /** Asks once, and from then on by itself. */
  async start(): Promise<void> {
    await this.#ask();
    this.#next();
  }

  async close(): Promise<void> {
    this.#isClosed = true;
    clearTimeout(this.#timer);
    await this.#drop();
  }

  #next(): void {
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => void this.#ask().then(() => this.#next()), EVERY_MS).unref();
  }

  async #ask(): Promise<void> {
    // A connection that was kept may have been closed by a database that has come back long since.
    this.#isAnswering = (this.#client !== undefined && (await this.#asked())) || (await this.#asked());
  }

  async #asked(): Promise<boolean> {
    if (this.#isClosed) return false;
    try {
      if (await isInTime(this.#answer())) return true;
      void this.#drop();
      return false;
    } catch {
      void this.#drop();
      return false;
    }
  }

  async #answer(): Promise<unknown> {
    const client =
      this.#client ?? new pg.Client({ connectionString: this.#url, application_name: 'pragmatica-watch' });
    if (!this.#client) {
      this.#client = client;
      // What ends the connection is noticed at the next question.
      client.on('error', () => undefined);
      await client.connect();
    }
    return client.query('select 1');
  }

  /** Without waiting for a goodbye that may not come. */
  async #drop(): Promise<void> {
    const client = this.#client;
    this.#client = undefined;
    if (client) await endConnection(client, ANSWER_MS);
  }
}

/**
 * Whether an answer comes in time. A process that was held up itself finds its timers due before it has read what came
 * meanwhile: of time in which it did not run, at most one tick counts.
 */
async function isInTime(answer: Promise<unknown>): Promise<boolean> {
  const over = new AbortController();
  const late = async (): Promise<false> => {
    for (let waited = 0; waited < ANSWER_MS; waited += TICK_MS)
      await sleep(TICK_MS, undefined, { signal: over.signal });
    return false;
  };
  answer.catch(() => undefined);
  try {
    return await Promise.race([answer.then(() => true), late()]);
  } finally {
    over.abort();
  }
}
