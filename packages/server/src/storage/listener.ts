import { endConnection } from '@pragmatica/runtime';
import pg from 'pg';

const RECONNECT_MS = 2_000;
const ANSWER_MS = 5_000;

export interface Hearing {
  /** An identifier of SQL. */
  readonly channel: string;
  /** How the database lists the connection. */
  readonly name: string;
  readonly onCall: (payload: string) => void;
  /** It hears again, and may have missed something. */
  readonly onAgain?: () => void;
}

/** Hears what is said on a channel of the database (LISTEN and NOTIFY), on a connection of its own that comes back by itself. */
export class Listener {
  readonly #url: string;
  readonly #hearing: Hearing;
  #client: pg.Client | undefined;
  #connecting: Promise<void> | undefined;
  #timer: NodeJS.Timeout | undefined;
  #hasHeard = false;
  #isClosed = false;

  constructor(url: string, hearing: Hearing) {
    this.#url = url;
    this.#hearing = hearing;
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
      application_name: this.#hearing.name,
      connectionTimeoutMillis: ANSWER_MS,
      query_timeout: ANSWER_MS,
      keepAlive: true,
    });
    const lost = (): void => {
      if (this.#client === client) this.#again();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => this.#hearing.onCall(payload ?? ''));
    try {
      await client.connect();
      await client.query(`listen ${this.#hearing.channel}`);
      this.#client = client;
    } catch {
      await endConnection(client, ANSWER_MS);
      this.#again();
      return;
    }
    if (this.#hasHeard) this.#hearing.onAgain?.();
    this.#hasHeard = true;
  }

  #again(): void {
    this.#client = undefined;
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => void this.start(), RECONNECT_MS).unref();
  }
}
