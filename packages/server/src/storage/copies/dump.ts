import { randomUUID } from 'node:crypto';
import { BACKUP_FORM, writeBackup, type BackupManifest, type TableBytes } from '@pragmatica/backup';
import { CHAIN_START, type ChainHead } from '@pragmatica/core';
import { to as copyTo } from 'pg-copy-streams';
import { columnsOf, keysOf, sequencesOf } from './columns.js';
import { LongConnection, quoted } from './connection.js';
import { COPIED, type CopiedTable } from './tables.js';

export interface DumpOptions {
  /** Of the service. */
  readonly version: string;
  /** The key that seals passwords, in base64; null leaves it out. */
  readonly key: string | null;
  /** Told what comes, before it comes. */
  readonly onManifest?: (manifest: BackupManifest) => void;
  /** Told how many rows have come. */
  readonly onRows?: (rows: number) => void;
}

/** Somebody is making a backup. */
export class BackupUnderWay extends Error {
  override name = 'BackupUnderWay';
}

/** Of one database one backup is made at a time. */
const LOCK = `select pg_try_advisory_xact_lock(hashtext('pragmatica.backup')) as free`;

/**
 * The whole installation as one file (`docs/backups.md`), everything of one moment. Nobody waits for it: it reads from a snapshot
 * of the database, and holds no more than a piece in memory.
 *
 * @throws BackupUnderWay, what the database says
 */
export async function* dumpInstallation(url: string, options: DumpOptions): AsyncGenerator<Uint8Array> {
  const connection = await LongConnection.open(url);
  try {
    const { run } = connection;
    await run('begin isolation level repeatable read read only');
    // Before the first look: the schema stays as it is until the end.
    await run(`lock table ${COPIED.map(({ name }) => quoted(name)).join(', ')} in access share mode`);
    const [lock] = await run<{ free: boolean }>(LOCK);
    if (!lock!.free) throw new BackupUnderWay();
    const manifest = await describe(connection, options);
    options.onManifest?.(manifest);
    yield* writeBackup(manifest, options.key, tablesOf(connection, manifest), options.onRows);
  } finally {
    await connection.close();
  }
}

async function describe({ run }: LongConnection, { version, key }: DumpOptions): Promise<BackupManifest> {
  const [here] = await run<{ schema: string; at: Date }>('select current_schema() as schema, now() as at');
  const { schema, at } = here!;
  const [columns, sequences] = [await columnsOf(run, schema), await sequencesOf(run, schema)];
  const migrations = await run<{ name: string }>('select name from migration order by id');
  const tables: BackupManifest['tables'] = [];
  for (const table of COPIED) {
    const { name } = table;
    const sequence = sequences.get(name);
    const [row] = await run<{ rows: number; last: number | null }>(
      `select (select count(*)::int from ${quoted(name)} ${whereOf(table)}) as rows,
         ${sequence === undefined ? 'null::int' : `(select case when is_called then last_value else 0 end::int from ${quoted(sequence)})`} as last`,
    );
    tables.push({ name, columns: [...columns.get(name)!], rows: row!.rows, last: row!.last });
  }
  const sites = await run<BackupManifest['sites'][number]>(
    `select s.key, s.name, coalesce(array_agg(h.host::text order by h.position) filter (where h.id is not null), '{}') as hosts
     from site s left join host h on h.site_id = s.id group by s.id order by s.key`,
  );
  const [head] = await run<ChainHead>('select number, hash from trail_link order by number desc limit 1');
  return {
    format: 'pragmatica-backup',
    form: BACKUP_FORM,
    id: randomUUID(),
    madeAt: at.toISOString(),
    version,
    migrations: migrations.map(({ name }) => name),
    tables,
    trail: head ?? { number: 0, hash: CHAIN_START },
    sites,
    hasKey: key !== null,
  };
}

async function* tablesOf(
  { client, run }: LongConnection,
  manifest: BackupManifest,
): AsyncGenerator<TableBytes> {
  const keys = await keysOf(run);
  const byName = new Map(COPIED.map((table) => [table.name, table]));
  for (const { name, columns } of manifest.tables) {
    const order = keys.get(name)?.map(quoted).join(', ');
    const select = `select ${columns.map(quoted).join(', ')} from ${quoted(name)} ${whereOf(byName.get(name)!)} ${
      order === undefined ? '' : `order by ${order}`
    }`;
    yield { name, rows: client.query(copyTo(`copy (${select}) to stdout`)) };
  }
}

function whereOf({ without }: CopiedTable): string {
  return without === undefined ? '' : `where not (${without})`;
}
