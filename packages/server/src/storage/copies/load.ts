import type { Writable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { BackupError, type BackupItem, type BackupManifest, type TableOfBackup } from '@pragmatica/backup';
import type { AbstractSqlDriver } from '@mikro-orm/knex';
import type { Migration } from '@mikro-orm/migrations';
import type { MikroORM } from '@mikro-orm/postgresql';
import { from as copyFrom } from 'pg-copy-streams';
import { migrations } from '../migrations/index.js';
import type { Run } from '../run.js';
import { quoted, type LongConnection } from './connection.js';
import { isCopied } from './tables.js';

/** What a backup needs is not known here: it was made by a newer version. */
export class NewerBackup extends Error {
  override name = 'NewerBackup';

  constructor(readonly version: string) {
    super();
  }
}

/** The database refused rows of a backup. */
export class UnfitRows extends Error {
  override name = 'UnfitRows';

  constructor(
    readonly table: string,
    cause: unknown,
  ) {
    super(cause instanceof Error ? cause.message : String(cause), { cause });
  }
}

/** How far loading is. */
export interface LoadProgress {
  readonly table: string;
  readonly rows: number;
  readonly of: number;
}

export interface Loaded {
  readonly manifest: BackupManifest;
  /** The key that its passwords are sealed with, in base64; null where it is not in the file. */
  readonly key: string | null;
}

/**
 * Loads a backup into a schema of its own, in the transaction that has been begun: first the tables as they were when it was made,
 * then its rows, then what has been done to the schema since. It is as this version of the service would have it.
 *
 * @throws BackupError, NewerBackup, UnfitRows
 */
export async function loadBackup(
  connection: LongConnection,
  orm: MikroORM,
  schema: string,
  items: AsyncIterable<BackupItem>,
  onProgress: (progress: LoadProgress) => void,
): Promise<Loaded> {
  const { run } = connection;
  let loading: Loading | undefined;
  let key: string | null = null;
  for await (const item of items) {
    if (item.type === 'manifest') {
      const since = sinceBackup(item.manifest);
      await run(`create schema ${quoted(schema)}`);
      await run(`set local search_path to ${quoted(schema)}`);
      for (const migration of since.before) await apply(orm, run, migration);
      loading = new Loading(connection, schema, item.manifest, since.after);
    } else if (item.type === 'key') key = item.key;
    else if (item.type === 'rows') {
      const { table, bytes, done } = item;
      await loading!.rows(table, bytes);
      onProgress({ table: table.name, rows: done, of: table.rows });
    }
  }
  const { manifest, after } = await loading!.ended();
  for (const migration of after) await apply(orm, run, migration);
  return { manifest, key };
}

type KnownMigration = (typeof migrations)[number];

/** What was done to the schema before a backup was made, and since. @throws NewerBackup */
function sinceBackup({ migrations: done, version }: BackupManifest): {
  readonly before: readonly KnownMigration[];
  readonly after: readonly KnownMigration[];
} {
  const names = new Set(done);
  if (done.some((name) => !migrations.some((known) => known.name === name))) throw new NewerBackup(version);
  return {
    before: migrations.filter(({ name }) => names.has(name)),
    after: migrations.filter(({ name }) => !names.has(name)),
  };
}

async function apply(orm: MikroORM, run: Run, { class: Made }: KnownMigration): Promise<void> {
  // Migrations ask their driver for nothing but this.
  const driver = { execute: (sql: string, params?: unknown[]) => run(sql, params) };
  const migration: Migration = new Made(driver as unknown as AbstractSqlDriver, orm.config);
  await migration.up();
  for (const query of migration.getQueries()) await run(query as string);
}

/** The tables as they are filled, one after the other. */
class Loading {
  readonly #connection: LongConnection;
  readonly #schema: string;
  readonly #manifest: BackupManifest;
  readonly #after: readonly KnownMigration[];
  #table: TableOfBackup | undefined;
  #copy: Writable | undefined;

  constructor(
    connection: LongConnection,
    schema: string,
    manifest: BackupManifest,
    after: readonly KnownMigration[],
  ) {
    this.#connection = connection;
    this.#schema = schema;
    this.#manifest = manifest;
    this.#after = after;
  }

  async rows(table: TableOfBackup, bytes: Uint8Array): Promise<void> {
    if (table.name !== this.#table?.name) {
      await this.#endTable();
      await this.#beginTable(table);
    }
    await this.#guarded(write(this.#copy!, bytes));
  }

  async ended(): Promise<{ readonly manifest: BackupManifest; readonly after: readonly KnownMigration[] }> {
    await this.#endTable();
    return { manifest: this.#manifest, after: this.#after };
  }

  async #beginTable(table: TableOfBackup): Promise<void> {
    if (!isCopied(table.name)) throw new BackupError('damaged', { place: table.name });
    this.#table = table;
    const name = `${quoted(this.#schema)}.${quoted(table.name)}`;
    // What guards the rows of an installation counts what is done to it; these are as they were.
    await this.#guarded(this.#connection.run(`alter table ${name} disable trigger user`));
    // What a table was born with.
    await this.#guarded(this.#connection.run(`delete from ${name}`));
    const columns = table.columns.map(quoted).join(', ');
    this.#copy = this.#connection.client.query(copyFrom(`copy ${name} (${columns}) from stdin`));
    // It is told by whoever writes next.
    this.#copy.on('error', () => undefined);
  }

  async #endTable(): Promise<void> {
    const copy = this.#copy;
    if (!copy) return;
    this.#copy = undefined;
    copy.end();
    await this.#guarded(finished(copy));
    await this.#connection.run(
      `alter table ${quoted(this.#schema)}.${quoted(this.#table!.name)} enable trigger user`,
    );
  }

  async #guarded<T>(work: Promise<T>): Promise<T> {
    try {
      return await work;
    } catch (error) {
      throw new UnfitRows(this.#table!.name, error);
    }
  }
}

async function write(stream: Writable, bytes: Uint8Array): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    stream.write(bytes, (error) => (error ? reject(error) : resolve()));
  });
}
