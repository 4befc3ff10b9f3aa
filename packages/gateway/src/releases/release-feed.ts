import {
  HOST_VIEW,
  RELEASE_CHANNEL,
  RELEASE_VIEW,
  REPORT_FUNCTION,
  originsOf,
  type Environment,
  type SentPolicy,
  type Transfer,
} from '@pragmatica/contract';
import { endConnection } from '@pragmatica/runtime';
import pg from 'pg';
import type { Logger } from 'pino';
import type { CountedReport } from '../policy/report-counter.js';
import { readReleases, type ReleaseHead } from './read-releases.js';
import { sha256, type ReleaseFiles } from './release-files.js';
import type { GatewayState, ReleaseState, StateMessage } from './state.js';

/** A lost notification heals after this long. */
const RECONCILE_MS = 5_000;
const RECONNECT_MS = 1_000;
/** A database that is frozen, not dead, accepts connections and never answers. */
const DATABASE_TIMEOUT_MS = 10_000;
const RELEASES_AT_A_TIME = 16;

interface HostRow {
  readonly host: string;
  readonly environment: Environment;
  readonly origin: string;
  readonly transfer: Transfer;
  /** Not there before the service has brought the database up to date: then all hosts are the gateway's. */
  readonly delivery?: string;
  /** The same. */
  readonly policy?: SentPolicy | null;
  readonly site: string;
  readonly release: number | null;
}

/** The database cannot be read, and there is nothing on disk. The message names it, without its password. */
export class FeedError extends Error {
  override name = 'FeedError';
}

/**
 * Follows what the database says is live: reads it at the start and at every publish (LISTEN/NOTIFY), keeps it on disk
 * and hands it on. Lives beside the processes that serve, never in one: a slow database or a large release costs no
 * visitor anything.
 */
export class ReleaseFeed {
  readonly #url: string;
  readonly #log: Logger;
  readonly #files: ReleaseFiles;
  readonly #hand: (message: StateMessage) => void;
  #state: GatewayState | undefined;
  /** What an earlier run left on disk, whole and as it was written. */
  #kept: readonly ReleaseState[] = [];
  #texts: Record<number, string> = {};
  #client: pg.Client | undefined;
  #timer: NodeJS.Timeout | undefined;
  #reconnecting: NodeJS.Timeout | undefined;
  #loading: Promise<void> | undefined;
  #isStale = false;
  #closed = false;

  /** @param hand - is given every new state, the first one before `start` ends */
  constructor(url: string, log: Logger, files: ReleaseFiles, hand: (message: StateMessage) => void) {
    this.#url = url;
    this.#log = log;
    this.#files = files;
    this.#hand = hand;
  }

  /** Whether the database was heard of last time. */
  get isConnected(): boolean {
    return this.#client !== undefined;
  }

  /** What a process that starts is sent. */
  get message(): StateMessage | undefined {
    return this.#state && { state: this.#state, texts: this.#texts };
  }

  /**
   * Loads everything and begins to listen. A database that does not answer is no hindrance: the state on disk is
   * handed on, and the database is asked again until it answers.
   *
   * @throws FeedError when there is neither
   */
  async start(): Promise<void> {
    this.#timer = setInterval(() => void this.refresh(), RECONCILE_MS);
    this.#timer.unref();
    const kept = await this.#readFiles();
    this.#kept = kept?.releases ?? [];
    try {
      await this.#connect();
      await this.#load();
    } catch (error) {
      if (!kept) {
        await this.close();
        throw feedError(this.#url, error);
      }
      this.#log.warn({ err: error }, 'the database does not answer; the releases on disk are served');
      this.#state = kept;
      this.#hand({ state: kept, texts: {} });
      this.#lost();
    }
  }

  async close(): Promise<void> {
    this.#closed = true;
    clearInterval(this.#timer);
    clearTimeout(this.#reconnecting);
    const client = this.#client;
    this.#client = undefined;
    if (client) await endConnection(client, RECONNECT_MS);
  }

  /** Loads again; calls that come while loading are joined into one more load after it. Never throws. */
  async refresh(): Promise<void> {
    if (this.#closed || !this.#client) return;
    if (this.#loading) {
      this.#isStale = true;
      return this.#loading;
    }
    this.#loading = (async () => {
      do {
        this.#isStale = false;
        await this.#load().catch((error: unknown) => {
          this.#log.warn({ err: error }, 'the releases could not be read; the last ones go on being served');
          this.#lost();
        });
      } while (this.#mustReload());
    })();
    await this.#loading;
    this.#loading = undefined;
  }

  /** Hands on what browsers report; while the database is away it is lost. Never throws. */
  async report(reports: readonly CountedReport[]): Promise<void> {
    // Not into the middle of a transaction that only reads.
    while (this.#loading) await this.#loading;
    if (reports.length === 0 || !this.#client) return;
    try {
      await this.#client.query(`select ${REPORT_FUNCTION}($1::jsonb)`, [JSON.stringify(reports)]);
    } catch (error) {
      this.#log.warn({ err: error, kinds: reports.length }, 'reports of browsers could not be kept');
    }
  }

  #mustReload(): boolean {
    return this.#isStale && !this.#closed && this.#client !== undefined;
  }

  /** Reads hosts and releases in one snapshot of the database. */
  async #load(): Promise<void> {
    const client = this.#client;
    if (!client) return;
    await client.query('begin isolation level repeatable read, read only');
    // What fails here ends the connection, and with it the transaction.
    const { rows: hosts } = await client.query<HostRow>(`select * from ${HOST_VIEW} order by host`);
    const ids = [...new Set(hosts.flatMap(({ release }) => release ?? []))];
    const releases = await this.#readReleases(client, ids);
    await client.query('commit');
    await this.#use({
      hosts: hosts.map(({ host, site, environment, origin, transfer, delivery, policy, release }) => ({
        host,
        site,
        environment,
        origins: originsOf(origin),
        transfer,
        isDelivered: delivery === undefined || delivery === 'gateway',
        ...(policy ? { policy } : {}),
        release,
      })),
      releases,
    });
  }

  /** A release never changes: only those that are new are read, a few at a time. */
  async #readReleases(client: pg.Client, ids: readonly number[]): Promise<ReleaseState[]> {
    const { rows: heads } = await client.query<ReleaseHead>(
      `select id, number, digest from ${RELEASE_VIEW} where id = any($1)`,
      [ids],
    );
    const digests = new Map(heads.map(({ id, digest }) => [id, digest]));
    const known = new Map<number, ReleaseState>();
    for (const release of this.#state?.releases ?? this.#kept) {
      // A database that was put back from a copy may have another release of this id.
      const isSame = digests.get(release.id) === release.digest;
      const isThere = this.#texts[release.id] !== undefined || (await this.#files.hasRelease(release));
      if (isSame && isThere) known.set(release.id, release);
    }
    const missing = ids.filter((id) => !known.has(id));
    for (let i = 0; i < missing.length; i += RELEASES_AT_A_TIME)
      for (const { snapshot, ...head } of await readReleases(
        client,
        missing.slice(i, i + RELEASES_AT_A_TIME),
      ))
        if (snapshot) known.set(head.id, await this.#keep(head, JSON.stringify(snapshot)));
        else
          this.#log.error({ release: head.number }, 'a release is not what was published; it is not served');
    return ids.flatMap((id) => known.get(id) ?? []);
  }

  /** Writes a release to disk; where that fails it is handed on by itself. */
  async #keep({ id, number, digest }: ReleaseHead, text: string): Promise<ReleaseState> {
    try {
      await this.#files.writeRelease(id, text);
    } catch (error) {
      this.#log.error({ err: error }, 'a release could not be kept on disk; it is served all the same');
      this.#texts[id] = text;
    }
    return { id, number, digest, sha256: sha256(text) };
  }

  async #use(state: GatewayState): Promise<void> {
    const isNew = JSON.stringify(state) !== JSON.stringify(this.#state);
    this.#state = state;
    const served = new Set(state.releases.map(({ id }) => String(id)));
    this.#texts = Object.fromEntries(Object.entries(this.#texts).filter(([id]) => served.has(id)));
    if (isNew) this.#hand({ state, texts: this.#texts });
    await this.#files.writeState(state).catch((error: unknown) => {
      this.#log.error({ err: error }, 'what is served could not be kept on disk; it is served all the same');
    });
  }

  /** The state on disk, if all of it is as it was written. */
  async #readFiles(): Promise<GatewayState | undefined> {
    try {
      const state = await this.#files.readState();
      for (const release of state?.releases ?? []) await this.#files.readRelease(release);
      return state;
    } catch (error) {
      this.#log.error({ err: error }, 'the releases on disk cannot be used');
      return undefined;
    }
  }

  async #connect(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.#url,
      application_name: 'pragmatica-gateway',
      connectionTimeoutMillis: DATABASE_TIMEOUT_MS,
      query_timeout: DATABASE_TIMEOUT_MS,
      statement_timeout: DATABASE_TIMEOUT_MS,
      keepAlive: true,
    });
    const lost = (): void => {
      if (this.#client === client) this.#lost();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', () => void this.refresh());
    try {
      await client.connect();
      await client.query(`listen ${RELEASE_CHANNEL}`);
    } catch (error) {
      void endConnection(client, RECONNECT_MS);
      throw error;
    }
    this.#client = client;
  }

  /** The connection is gone, or as good as gone. However often that is noticed, one attempt is made at a time. */
  #lost(): void {
    const client = this.#client;
    this.#client = undefined;
    if (client) void endConnection(client, RECONNECT_MS);
    if (this.#closed) return;
    this.#reconnecting ??= setTimeout(() => {
      this.#reconnecting = undefined;
      void this.#reconnect();
    }, RECONNECT_MS).unref();
  }

  async #reconnect(): Promise<void> {
    if (this.#closed) return;
    try {
      await this.#connect();
    } catch {
      this.#lost();
      return;
    }
    if (this.#mustEnd()) await this.close();
    else await this.refresh();
  }

  #mustEnd(): boolean {
    return this.#closed;
  }
}

/** "undefined_table": the service has never made its tables there. */
const NO_TABLES = '42P01';

function feedError(url: string, error: unknown): FeedError {
  const { host, pathname } = new URL(url);
  const name = `The database ${pathname.slice(1)} at ${host}`;
  const code = error instanceof Error && 'code' in error ? error.code : undefined;
  if (code === NO_TABLES)
    return new FeedError(`${name} has no tables of Pragmatica yet. Start the service first: it makes them.`);
  const why = error instanceof Error ? error.message : String(error);
  return new FeedError(
    `${name} does not answer (${why}), and there are no releases on disk to serve. Is it running, and is DATABASE_URL right?`,
  );
}
