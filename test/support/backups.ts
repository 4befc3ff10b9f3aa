import type { BackupList, BringSiteEvent, KeptBackup, RestoreEvent } from '@pragmatica/contract';
import pg from 'pg';
import type { Stage } from './stage.js';

/** The bytes of a stream. */
export async function bytesOf(stream: ReadableStream<Uint8Array>): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of stream as unknown as AsyncIterable<Uint8Array>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** A backup of a whole stage: a tar archive. */
export async function takeBackup(stage: Stage, query: { withoutKey?: '1' } = {}): Promise<Buffer> {
  return bytesOf(await stage.client.download('takeBackup', { query }));
}

type Done<E> = Extract<E, { readonly type: 'done' }>;

/** Restores a backup into a stage. @throws ApiError */
export async function restore(
  stage: Stage,
  backup: Uint8Array,
  query: { quiet?: '1' } = {},
): Promise<Done<RestoreEvent>> {
  return last(stage.client.upload('restoreBackup', { query }, upload(backup)));
}

/** Brings a site of a backup back. @throws ApiError */
export async function bringBack(
  stage: Stage,
  backup: Uint8Array,
  query: { site: string; as?: string },
): Promise<Done<BringSiteEvent>> {
  return last(stage.client.upload('bringSiteBack', { query }, upload(backup)));
}

function upload(bytes: Uint8Array) {
  return { type: 'application/x-tar', bytes: new Blob([new Uint8Array(bytes)]).stream() };
}

async function last<E extends { readonly type: string }>(events: AsyncIterable<E>): Promise<Done<E>> {
  let event: E | undefined;
  for await (const next of events) event = next;
  if (event?.type !== 'done') throw new Error(`It ended with ${event?.type ?? 'nothing'}.`);
  return event as Done<E>;
}

/** Runs SQL in a stage’s database. */
export async function sql<T extends object>(
  stage: Pick<Stage, 'databaseUrl'>,
  text: string,
  values: readonly unknown[] = [],
): Promise<T[]> {
  const client = new pg.Client({ connectionString: stage.databaseUrl });
  await client.connect();
  try {
    return (await client.query<T>(text, [...values])).rows;
  } finally {
    await client.end();
  }
}

/** Waits until a backup of the folder is made, or will not be. */
export async function settled(stage: Stage, id?: number): Promise<KeptBackup> {
  for (;;) {
    const { items }: BackupList = (await stage.client.call('listBackups', {})).data;
    const row = id === undefined ? items[0] : items.find((one) => one.id === id);
    if (row && (row.state === 'done' || row.state === 'failed')) return row;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
