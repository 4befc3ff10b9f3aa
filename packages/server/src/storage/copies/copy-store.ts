import type { BackupItem, BackupManifest } from '@pragmatica/backup';
import { RELEASE_CHANNEL } from '@pragmatica/contract';
import { ChainReader, type TrailEntry } from '@pragmatica/core';
import type { MikroORM } from '@mikro-orm/postgresql';
import { deferMessages } from '../../language/speech.js';
import { currentAsker } from '../asker.js';
import { toStored } from '../deferred-words.js';
import type { Run } from '../run.js';
import { chainEntries, readChainBy } from '../trail-chain.js';
import { bringSite, type BroughtSite } from './bring-site.js';
import { LongConnection } from './connection.js';
import { BackupUnderWay, dumpInstallation, type DumpOptions } from './dump.js';
import { loadBackup, type Loaded, type LoadProgress } from './load.js';
import { hasSomething, putBack, type PutBack } from './put-back.js';
import { resealAll, type LostSecret, type Reseal } from './sealed.js';

/** What the trail says of it. */
export interface CopyEntry {
  readonly by: string;
  readonly action: string;
  readonly message: (loaded: BackupManifest) => string;
}

export interface RestoreOptions extends PutBack {
  /** @param key - that the backup's values are sealed with, in base64; null where it is not in the file */
  readonly reseal: (key: string | null) => Reseal;
  readonly entry: CopyEntry;
  readonly onProgress: (progress: LoadProgress) => void;
}

export interface Restored {
  readonly manifest: BackupManifest;
  readonly lost: readonly LostSecret[];
  /** Whether the trail came as it was written. */
  readonly isTrailWhole: boolean;
}

export interface BringOptions extends Omit<RestoreOptions, keyof PutBack | 'reseal'> {
  /** Key of the site in the backup. */
  readonly site: string;
  /** Its key here. */
  readonly as: string;
  /** @param oldId - the id that the site had, when its values were sealed */
  readonly reseal: (key: string | null, oldId: number) => Reseal;
}

export interface Brought extends BroughtSite {
  readonly manifest: BackupManifest;
  readonly lost: readonly LostSecret[];
}

/** Backups of the database behind a store. Each restore is one transaction: all of it, or nothing. */
export class CopyStore {
  readonly #url: string;
  readonly #orm: MikroORM;

  constructor(url: string, orm: MikroORM) {
    this.#url = url;
    this.#orm = orm;
  }

  /** @throws BackupUnderWay */
  dump(options: DumpOptions): AsyncGenerator<Uint8Array> {
    return dumpInstallation(this.#url, options);
  }

  /** Whether anybody has begun to use the installation, so that nothing can be restored into it. */
  async isInUse(): Promise<boolean> {
    return hasSomething(async (sql, params = []) => this.#orm.em.fork().execute(sql, [...params]));
  }

  /**
   * Makes an empty installation what a backup says.
   *
   * @throws NotEmpty, NewerBackup, UnfitRows, BackupError
   */
  async restore(
    items: AsyncIterable<BackupItem>,
    { reseal, entry, onProgress, ...how }: RestoreOptions,
  ): Promise<Restored> {
    return this.#load(items, onProgress, async (connection, schema, loaded) => {
      await putBack(connection, schema, loaded, how);
      const { run } = connection;
      const lost = await resealAll(run, reseal(loaded.key));
      const isTrailWhole = await isChainWhole(run, loaded.manifest);
      await addEntry(run, null, entry, loaded.manifest);
      return { manifest: loaded.manifest, lost, isTrailWhole };
    });
  }

  /**
   * Brings one site of a backup into this installation, as a site of its own.
   *
   * @throws NoSuchSite, SiteExists, NewerBackup, UnfitRows, BackupError
   */
  async bring(
    items: AsyncIterable<BackupItem>,
    { site, as, reseal, entry, onProgress }: BringOptions,
  ): Promise<Brought> {
    return this.#load(items, onProgress, async (connection, schema, loaded) => {
      const brought = await bringSite(connection, schema, {
        site,
        as,
        day: loaded.manifest.madeAt.slice(0, 10),
      });
      const { run } = connection;
      const lost = await resealAll(run, reseal(loaded.key, brought.oldId), brought.id);
      await addEntry(run, { id: brought.id, key: as }, entry, loaded.manifest);
      return { ...brought, manifest: loaded.manifest, lost };
    });
  }

  async #load<T>(
    items: AsyncIterable<BackupItem>,
    onProgress: (progress: LoadProgress) => void,
    use: (connection: LongConnection, schema: string, loaded: Loaded) => Promise<T>,
  ): Promise<T> {
    const connection = await LongConnection.open(this.#url);
    try {
      const { run } = connection;
      await run('begin');
      const [lock] = await run<{ free: boolean }>(
        `select pg_try_advisory_xact_lock(hashtext('pragmatica.restore')) as free`,
      );
      if (!lock!.free) throw new BackupUnderWay();
      const loaded = await loadBackup(connection, this.#orm, SCHEMA, items, onProgress);
      const result = await use(connection, SCHEMA, loaded);
      // Gateways hear at commit that there is something else to serve.
      await run('select pg_notify(?, ?)', [RELEASE_CHANNEL, '']);
      await run('commit');
      return result;
    } finally {
      await connection.close();
    }
  }
}

/** Where a backup is loaded; nobody else sees it before it is gone. */
const SCHEMA = 'pragmatica_backup';

async function isChainWhole(run: Run, { trail }: BackupManifest): Promise<boolean> {
  // Entries that were too old to be kept may be gone.
  const reader = new ChainReader(new Date().toISOString(), trail);
  let last = 0;
  for (;;) {
    const rows = await readChainBy(run, last);
    for (const { link, entry } of rows) {
      reader.read(link, entry);
      last = link.number;
    }
    if (rows.length === 0) return reader.finish().faults === 0;
  }
}

async function addEntry(
  run: Run,
  site: { readonly id: number; readonly key: string } | null,
  { by, action, message }: CopyEntry,
  manifest: BackupManifest,
): Promise<void> {
  const { token, address } = currentAsker();
  const at = new Date().toISOString();
  const { words, said } = toStored(deferMessages(() => message(manifest)));
  const [row] = await run<{ id: number }>(
    `insert into audit (site_id, action, message, said, "by", token, address, at) values (?, ?, ?, ?, ?, ?, ?, ?)
     returning id`,
    [site?.id ?? null, action, words, said, by, token, address, at],
  );
  const plain = { at, by, token, address, action, message: words };
  const entry: TrailEntry = { ...plain, site: site?.key ?? null, changes: [] };
  await chainEntries(run, [{ id: row!.id, entry }]);
}
