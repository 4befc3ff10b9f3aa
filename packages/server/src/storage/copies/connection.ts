import { endConnection } from '@pragmatica/runtime';
import pg from 'pg';
import type { Run } from '../run.js';

const ANSWER_MS = 10_000;
/** So long it waits for a table that somebody else holds. */
const LOCK_MS = 15_000;

/** A connection of its own for work that takes as long as there is data. */
export class LongConnection {
  readonly client: pg.Client;

  private constructor(client: pg.Client) {
    this.client = client;
  }

  /** @throws what the database says */
  static async open(url: string): Promise<LongConnection> {
    const client = new pg.Client({
      connectionString: url,
      application_name: 'pragmatica-backup',
      connectionTimeoutMillis: ANSWER_MS,
      statement_timeout: 0,
      lock_timeout: LOCK_MS,
      keepAlive: true,
    });
    // A connection that breaks is told to whoever waits for it.
    client.on('error', () => undefined);
    await client.connect();
    // What is written must be read the same everywhere.
    await client.query(
      `set timezone = 'UTC'; set datestyle = 'ISO'; set intervalstyle = 'iso_8601'; set bytea_output = 'hex';
       set client_encoding = 'UTF8'`,
    );
    return new LongConnection(client);
  }

  /** Runs SQL whose parameters are question marks, as the rest of this folder writes it. */
  readonly run: Run = async <T extends object>(sql: string, params: readonly unknown[] = []) => {
    let number = 0;
    const numbered = params.length === 0 ? sql : sql.replaceAll('?', () => `$${++number}`);
    return (await this.client.query<T>(numbered, [...params])).rows;
  };

  /** Gives up what is not committed, then ends. Never throws. */
  async close(): Promise<void> {
    await endConnection(this.client, ANSWER_MS);
  }
}

/** A name as SQL takes it. */
export function quoted(name: string): string {
  return `"${name.replaceAll('"', '""')}"`;
}
