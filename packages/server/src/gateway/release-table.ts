import { IsolationLevel, type EntityManager, type MikroORM } from '@mikro-orm/postgresql';
import type { Environment } from '@pragmatica/contract';
import { ReleasePlanner } from '@pragmatica/core';
import pg from 'pg';
import type { Logger } from 'pino';
import { RELEASE_CHANNEL } from '../site/change-site.js';
import { HostEntity, PointerEntity, ReleaseEntity } from '../storage/entities/index.js';

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
  readonly origin: string;
  /** Undefined while nothing has been published to the environment. */
  readonly release: CompiledRelease | undefined;
}

/** A lost notification heals after this long. */
const RECONCILE_MS = 5_000;
const RECONNECT_MS = 1_000;

/**
 * The live releases, compiled, by host. Loaded at the start, then again at every publish through LISTEN/NOTIFY. While
 * the database is away the last state goes on being served.
 */
export class ReleaseTable {
  readonly #orm: MikroORM;
  readonly #url: string;
  readonly #log: Logger;
  #hosts: ReadonlyMap<string, ServedHost> = new Map();
  /** By id of the release, which never changes its content. */
  #compiled: ReadonlyMap<number, CompiledRelease> = new Map();
  #listener: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #loading: Promise<void> | undefined;
  #isStale = false;
  #closed = false;

  constructor(orm: MikroORM, url: string, log: Logger) {
    this.#orm = orm;
    this.#url = url;
    this.#log = log;
  }

  get size(): number {
    return this.#hosts.size;
  }

  find(host: string): ServedHost | undefined {
    return this.#hosts.get(host);
  }

  /** Loads everything and begins to listen. @throws when the database cannot be read the first time */
  async start(): Promise<void> {
    await this.#listen();
    await this.#load();
    this.#timer = setInterval(() => void this.refresh(), RECONCILE_MS);
    this.#timer.unref();
  }

  async close(): Promise<void> {
    this.#closed = true;
    clearInterval(this.#timer);
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

  #mustReload(): boolean {
    return this.#isStale && !this.#closed;
  }

  /** Reads hosts and pointers in one snapshot of the database and swaps the whole table at once. */
  async #load(): Promise<void> {
    await this.#orm.em.fork().transactional(
      async (em) => {
        const hosts = await em.find(HostEntity, {}, { populate: ['site'] });
        const pointers = await em.find(PointerEntity, {});
        const releases = new Map(
          (
            await em.find(
              ReleaseEntity,
              { id: { $in: pointers.map((pointer) => pointer.release.id) } },
              { exclude: ['snapshot'] },
            )
          ).map((release) => [release.id, release]),
        );
        const compiled = new Map<number, CompiledRelease>();
        for (const { id, number, digest } of releases.values())
          compiled.set(id, this.#compiled.get(id) ?? (await compile(em, id, number, digest)));
        const served = hosts.map(({ host, environment, origin, site }): ServedHost => {
          const pointer = pointers.find(
            (entry) => entry.site.id === site.id && entry.environment === environment,
          );
          return {
            host,
            environment,
            origin,
            site: site.key,
            release: pointer && compiled.get(pointer.release.id),
          };
        });
        this.#compiled = compiled;
        this.#hosts = new Map(served.map((entry) => [entry.host, entry]));
      },
      { isolationLevel: IsolationLevel.REPEATABLE_READ },
    );
  }

  async #listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.#url });
    const retry = (): void => {
      if (this.#closed || this.#listener !== client) return;
      this.#listener = undefined;
      void client.end().catch(() => undefined);
      setTimeout(() => void this.#reconnect(), RECONNECT_MS).unref();
    };
    this.#listener = client;
    client.on('error', retry);
    client.on('end', retry);
    client.on('notification', () => void this.refresh());
    await client.connect();
    await client.query(`listen ${RELEASE_CHANNEL}`);
  }

  async #reconnect(): Promise<void> {
    if (this.#closed) return;
    try {
      await this.#listen();
      await this.refresh();
    } catch {
      this.#listener = undefined;
      setTimeout(() => void this.#reconnect(), RECONNECT_MS).unref();
    }
  }
}

async function compile(
  em: EntityManager,
  id: number,
  number: number,
  digest: string,
): Promise<CompiledRelease> {
  const { snapshot } = await em.fork().findOneOrFail(ReleaseEntity, id);
  return { number, digest, planner: new ReleasePlanner(snapshot) };
}
