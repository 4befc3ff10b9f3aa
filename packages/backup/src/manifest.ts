import { z } from 'zod';

/** The form that is written. A reader knows it and all before it. */
export const BACKUP_FORM = 1;

/** More than this no manifest has; what says so is none. */
export const MOST_MANIFEST_BYTES = 16 * 1024 * 1024;

const name = z.string().regex(/^[a-z_]{1,63}$/);
const count = z.number().int().min(0);
const hex64 = z.string().regex(/^[0-9a-f]{64}$/);

const tableOfBackup = z.object({
  name,
  columns: z.array(name).min(1),
  rows: count,
  /** The last number that was given out for it; null where it numbers nothing. */
  last: count.nullable(),
});
export type TableOfBackup = z.output<typeof tableOfBackup>;

/** What stands first in a backup: what is in it. */
export const backupManifest = z.object({
  format: z.literal('pragmatica-backup'),
  form: z.number().int().min(1),
  id: z.uuid(),
  /** The moment that everything in it is of. */
  madeAt: z.iso.datetime(),
  /** Version of the service that made it. */
  version: z.string(),
  /** What has been done to the schema, in order: it can be read by a service that knows all of these. */
  migrations: z.array(z.string().regex(/^\w{1,255}$/)).min(1),
  /** In an order in which each may be filled after those that it names. */
  tables: z.array(tableOfBackup).min(1),
  /** Where the chain over the trail ended. */
  trail: z.object({ number: count, hash: hex64 }),
  sites: z.array(z.object({ key: z.string(), name: z.string(), hosts: z.array(z.string()) })),
  /** Whether it holds the key that seals passwords. */
  hasKey: z.boolean(),
});
export type BackupManifest = z.output<typeof backupManifest>;

/** What stands last: what each table's bytes must come to. Without it the file was cut off. */
export const backupEnd = z.object({
  tables: z.array(z.object({ name, rows: count, bytes: count, sha256: hex64 })),
});
export type BackupEnd = z.output<typeof backupEnd>;
