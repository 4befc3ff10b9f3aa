import { endConnection } from '@pragmatica/runtime';
import pg from 'pg';

const CHANNEL = 'pragmatica_jobs';
const RECONNECT_MS = 2_000;
const ANSWER_MS = 5_000;

/** Calls a query of the queue's own connection. */
export interface Executor {
  executeSql(text: string, values: unknown[]): Promise<unknown>;
}

/** Says that a queue has something in it, to whoever takes from it. */
export async function callQueue(db: Executor, name: string): Promise<void> {
  await db.executeSql('select pg_notify($1, $2)', [CHANNEL, name]);
}

/**
 * Hears when a queue has something in it (LISTEN and NOTIFY), so that somebody who waits for an answer does not wait for the next
 * look into the queue as well. While the connection is gone whoever looks now and then finds it all the same.
 */
export class QueueCalls {
  readonly #url: string;
  readonly #onCall: (name: string) => void;
  #client: pg.Client | undefined;
  #connecting: Promise<void> | undefined;
  #timer: NodeJS.Timeout | undefined;
  #isClosed = false;

  constructor(url: string, onCall: (name: string) => void) {
    this.#url = url;
    this.#onCall = onCall;
  }

  /** Begins to hear; where the database does not answer, as soon as it does. */
  async start(): Promise<void> {
    this.#connecting = this.#connect();
    await this.#connecting;
  }

  async close(): Promise<void> {
    this.#isClosed = true;
    clearTimeout(this.#timer);
    await this.#connecting;
    if (this.#client) await endConnection(this.#client, ANSWER_MS);
  }

  /** Never throws. */
  async #connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.#url,
      application_name: 'pragmatica-calls',
      connectionTimeoutMillis: ANSWER_MS,
      query_timeout: ANSWER_MS,
      keepAlive: true,
    });
    const lost = (): void => {
      if (this.#client === client) this.#again();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => this.#onCall(payload ?? ''));
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      this.#client = client;
    } catch {
      await endConnection(client, ANSWER_MS);
      this.#again();
    }
  }

  #again(): void {
    this.#client = undefined;
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => void this.start(), RECONNECT_MS).unref();
  }
}
