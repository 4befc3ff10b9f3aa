import { Listener } from './listener.js';

const CHANNEL = 'pragmatica_jobs';

/** Calls a query of the queue's own connection. */
export interface Executor {
  executeSql(text: string, values: unknown[]): Promise<unknown>;
}

/** Says that a queue has something in it, to whoever takes from it. */
export async function callQueue(db: Executor, name: string): Promise<void> {
  await db.executeSql('select pg_notify($1, $2)', [CHANNEL, name]);
}

/**
 * Hears when a queue has something in it, so that somebody who waits for an answer does not wait for the next look into the queue as
 * well. While the connection is gone whoever looks now and then finds it all the same.
 */
export function queueCalls(url: string, onCall: (name: string) => void): Listener {
  return new Listener(url, { channel: CHANNEL, name: 'pragmatica-calls', onCall });
}
