import { IsolationLevel, type EntityManager, type MikroORM } from '@mikro-orm/postgresql';
import { originsOf, type Environment } from '@pragmatica/contract';
import { ReleasePlanner, pageAddress, type Snapshot } from '@pragmatica/core';
import pg from 'pg';
import type { Logger } from 'pino';
import { RELEASE_CHANNEL } from '../site/change-site.js';
import { HostEntity, PointerEntity, ReleaseEntity } from '../storage/entities/index.js';
import type { GatewayState, ReleaseFile } from './release-file.js';

export interface CompiledRelease {
  readonly number: number;
  readonly digest: string;
  readonly planner: ReleasePlanner;
}

/** What the gateway knows of one host: all that a page load needs, ready in memory. */
export interface ServedHost {
  readonly host: string;
  readonly site: string;
  readonly environment: Environment;
  /** Where pages come from; several take turns. */
  readonly origins: readonly string[];
  /** Undefined while nothing has been published to the environment. */
  readonly release: CompiledRelease | undefined;
}

/** A lost notification heals after this long. */
const RECONCILE_MS = 5_000;
const RECONNECT_MS = 1_000;

/**
 * The live releases, compiled, by host. Loaded at the start, then again at every publish through LISTEN/NOTIFY. While
 * the database is away the last state goes on being served, the one on disk if there was no other.
 */
export class ReleaseTable {
  readonly #orm: MikroORM;
  readonly #url: string;
  readonly #log: Logger;
  readonly #file: ReleaseFile | undefined;
  #hosts: ReadonlyMap<string, ServedHost> = new Map();
  /** By id of the release, which never changes its content, and environment. */
  #compiled: ReadonlyMap<string, CompiledRelease> = new Map();
  #state: GatewayState = { hosts: [], releases: [] };
  #listener: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #reconnecting: NodeJS.Timeout | undefined;
  #loading: Promise<void> | undefined;
  #isStale = false;
  #closed = false;

  /** @param file - where the last state is kept; none for a process that only follows */
  constructor(orm: MikroORM, url: string, log: Logger, file?: ReleaseFile) {
    this.#orm = orm;
    this.#url = url;
    this.#log = log;
    this.#file = file;
  }

  get size(): number {
    return this.#hosts.size;
  }

  find(host: string): ServedHost | undefined {
    return this.#hosts.get(host);
  }

  /**
   * Loads everything and begins to listen. With a file, a database that does not answer is no hindrance: the state on
   * disk is served, and the database is asked again until it answers.
   *
   * @throws when there is neither
   */
  async start(): Promise<void> {
    this.#timer = setInterval(() => void this.refresh(), RECONCILE_MS);
    this.#timer.unref();
    try {
      await this.#listen();
      await this.#load();
    } catch (error) {
      if (!(await this.#loadFile())) throw error;
      this.#log.warn({ err: error }, 'the database does not answer; the releases on disk are served');
      this.#reconnectLater();
    }
  }

  async close(): Promise<void> {
    this.#closed = true;
    clearInterval(this.#timer);
    clearTimeout(this.#reconnecting);
    await this.#loading?.catch(() => undefined);
    await this.#listener?.end().catch(() => undefined);
  }

  /** Loads again; calls that come while loading are joined into one more load after it. Never throws. */
  async refresh(): Promise<void> {
    if (this.#closed) return;
    if (this.#loading) {
      this.#isStale = true;
      return this.#loading;
    }
    this.#loading = (async () => {
      do {
        this.#isStale = false;
        await this.#load().catch((error: unknown) => {
          this.#log.warn({ err: error }, 'the releases could not be read; the last ones go on being served');
        });
      } while (this.#mustReload());
    })();
    await this.#loading;
    this.#loading = undefined;
  }

  #mustEnd(): boolean {
    return this.#closed;
  }

  #mustReload(): boolean {
    return this.#isStale && !this.#closed;
  }

  /** Reads hosts and pointers in one snapshot of the database and swaps the whole table at once. */
  async #load(): Promise<void> {
    const state = await this.#orm.em
      .fork()
      .transactional((em) => this.#readState(em), { isolationLevel: IsolationLevel.REPEATABLE_READ });
    this.#use(state);
    await this.#file?.write(state).catch((error: unknown) => {
      this.#log.error({ err: error }, 'the releases could not be kept on disk; they are served all the same');
    });
  }

  async #readState(em: EntityManager): Promise<GatewayState> {
    const hosts = await em.find(HostEntity, {}, { populate: ['site'] });
    const pointers = await em.find(PointerEntity, {});
    const ids = [...new Set(pointers.map((pointer) => pointer.release.id))];
    // A release never changes: only those that are new are read whole.
    const known = new Map(this.#state.releases.map((release) => [release.id, release]));
    const missing = ids.filter((id) => !known.has(id));
    const read = missing.length > 0 ? await em.find(ReleaseEntity, { id: { $in: missing } }) : [];
    for (const { id, number, digest, snapshot } of read) known.set(id, { id, number, digest, snapshot });
    return {
      hosts: hosts.map(({ host, environment, origin, site }) => {
        const pointer = pointers.find(
          (entry) => entry.site.id === site.id && entry.environment === environment,
        );
        return {
          host,
          environment,
          site: site.key,
          origins: originsOf(origin),
          release: pointer?.release.id ?? null,
        };
      }),
      releases: ids.map((id) => known.get(id)!),
    };
  }

  async #loadFile(): Promise<boolean> {
    try {
      const state = await this.#file?.read();
      if (!state) return false;
      this.#use(state);
      return true;
    } catch (error) {
      this.#log.error({ err: error }, 'the releases on disk cannot be used');
      return false;
    }
  }

  #use(state: GatewayState): void {
    const releases = new Map(state.releases.map((release) => [release.id, release]));
    const compiled = new Map<string, CompiledRelease>();
    const compile = (id: number, environment: Environment): CompiledRelease => {
      const key = `${id} ${environment}`;
      const { number, digest, snapshot } = releases.get(id)!;
      const release =
        compiled.get(key) ?? this.#compiled.get(key) ?? this.#made(number, digest, snapshot, environment);
      compiled.set(key, release);
      return release;
    };
    this.#hosts = new Map(
      state.hosts.map(({ release, ...host }): [string, ServedHost] => [
        host.host,
        { ...host, release: release === null ? undefined : compile(release, host.environment) },
      ]),
    );
    this.#compiled = compiled;
    this.#state = state;
  }

  /** Ready before the first visitor comes; one that cannot be made ready harms no other release. */
  #made(number: number, digest: string, snapshot: Snapshot, environment: Environment): CompiledRelease {
    const planner = new ReleasePlanner(snapshot, environment);
    try {
      planner.page(pageAddress('/'));
    } catch (error) {
      this.#log.error(
        { err: error, release: number },
        'a release cannot be planned; its pages go out untouched',
      );
    }
    return { number, digest, planner };
  }

  async #listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#url });
    const retry = (): void => {
      if (this.#closed || this.#listener !== client) return;
      this.#listener = undefined;
      void client.end().catch(() => undefined);
      this.#reconnectLater();
    };
    client.on('error', retry);
    client.on('end', retry);
    client.on('notification', () => void this.refresh());
    try {
      await client.connect();
      await client.query(`listen ${RELEASE_CHANNEL}`);
    } catch (error) {
      void client.end().catch(() => undefined);
      throw error;
    }
    this.#listener = client;
  }

  /** However often a connection is missed, one attempt is made at a time. */
  #reconnectLater(): void {
    if (this.#closed) return;
    this.#reconnecting ??= setTimeout(() => {
      this.#reconnecting = undefined;
      void this.#reconnect();
    }, RECONNECT_MS).unref();
  }

  async #reconnect(): Promise<void> {
    if (this.#closed) return;
    try {
      await this.#listen();
      if (this.#mustEnd()) await this.#listener?.end();
      else await this.refresh();
    } catch {
      this.#reconnectLater();
    }
  }
}
