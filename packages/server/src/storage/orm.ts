import { MikroORM } from '@mikro-orm/postgresql';
import { Migrator } from '@mikro-orm/migrations';
import { DEFAULT_LIMITS, type Limits } from '@pragmatica/contract';
import { entities } from './entities/index.js';
import { migrations } from './migrations/index.js';
import { keepLimits } from './store-limits.js';
import { DraftBound } from './draft-bound.js';
import type { Store } from './store.js';
import { TrailKeeper } from './trail-keeper.js';

/** So long a call waits for a connection, a statement for its end, and the answer on its way back. */
const ACQUIRE_MS = 10_000;
const STATEMENT_MS = 15_000;
const ANSWER_MS = 1_000;
/** A transaction whose process hangs gives its locks back. */
const IDLE_IN_TRANSACTION_MS = 60_000;

/** The database cannot be used. The message names it, without its password. */
export class DatabaseError extends Error {
  override name = 'DatabaseError';
}

/** Opens the database. Nothing is created or changed; see `migrate`. @throws DatabaseError when it does not answer */
export async function openDatabase(url: string): Promise<MikroORM> {
  const orm = await prepareDatabase(url);
  try {
    await assertAnswers(orm, url);
  } catch (error) {
    await orm.close(true);
    throw error;
  }
  return orm;
}

/** @throws DatabaseError when the database does not answer */
export async function assertAnswers(orm: MikroORM, url: string): Promise<void> {
  const reason = await whyNotConnected(orm);
  if (reason === undefined) return;
  const { host, pathname } = new URL(url);
  throw new DatabaseError(
    `The database ${pathname.slice(1)} at ${host} does not answer (${reason}). Is it running, and is DATABASE_URL right?`,
  );
}

/** Makes ready for a database that may not answer yet. @param limits - how much may be kept in it */
export async function prepareDatabase(url: string, limits: Limits = DEFAULT_LIMITS): Promise<MikroORM> {
  const orm = await initDatabase(url, limits);
  keepLimits(orm, limits);
  return orm;
}

async function initDatabase(url: string, limits: Limits): Promise<MikroORM> {
  return MikroORM.init({
    clientUrl: url,
    connect: false,
    entities,
    subscribers: [new DraftBound(limits.snippets), new TrailKeeper()],
    extensions: [Migrator],
    migrations: {
      migrationsList: [...migrations],
      tableName: 'migration',
      snapshot: false,
      allOrNothing: true,
    },
    pool: { min: 0, max: 10, acquireTimeoutMillis: ACQUIRE_MS },
    forceUtcTimezone: true,
    discovery: { warnWhenNoEntities: true },
    logger: () => undefined,
    // The driver's own lines would go to the terminal past the log.
    driverOptions: {
      log: { warn: () => undefined, error: () => undefined },
      // A database that is frozen, not dead, takes every question and never answers.
      connection: {
        connectionTimeoutMillis: ACQUIRE_MS,
        query_timeout: STATEMENT_MS + ANSWER_MS,
        statement_timeout: STATEMENT_MS,
        lock_timeout: STATEMENT_MS,
        idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
        keepAlive: true,
      },
    },
  });
}

async function whyNotConnected(orm: Pick<MikroORM, 'checkConnection'>): Promise<string | undefined> {
  try {
    const connection = await orm.checkConnection();
    return connection.ok ? undefined : connection.reason;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** Brings the schema to the newest version; does nothing when it is. Returns the names of the migrations that ran. */
export async function migrate(orm: MikroORM): Promise<string[]> {
  const done = await orm.migrator.up();
  return done.map((migration) => migration.name);
}

/** The store of a database that was opened: each request and each job forks its own. */
export function storeOf(orm: MikroORM): Store {
  return orm.em;
}
