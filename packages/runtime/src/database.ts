import { createHash } from 'node:crypto';

const NAME_LENGTH = 12;

/** A name for a database, the same in every process that is given its address; nothing of the address can be read from it. */
export function databaseName(url: string): string {
  const { host, pathname } = new URL(url);
  return createHash('sha256')
    .update(host + pathname)
    .digest('hex')
    .slice(0, NAME_LENGTH);
}

/** What is needed of a client of the PostgreSQL driver. */
export interface Endable {
  end(): Promise<void>;
}

/**
 * Ends a connection, politely where the other side answers. Never throws.
 *
 * @param patience - milliseconds until it is cut off
 */
export async function endConnection(client: Endable, patience: number): Promise<void> {
  // The driver has no way of its own to give up a server that does not say goodbye.
  const { stream } = (client as unknown as { connection: { stream: { destroy(): void } } }).connection;
  const late = setTimeout(() => stream.destroy(), patience);
  await client.end().catch(() => undefined);
  clearTimeout(late);
}
