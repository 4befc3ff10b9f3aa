import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createLog, databaseName, listen } from '@pragmatica/runtime';
import type { Logger } from 'pino';
import { ensureAdministrator } from './auth/accounts.js';
import { createApp } from './http/app.js';
import { toProblem } from './http/problems.js';
import { databaseAway } from './errors.js';
import { createJobs } from './jobs/index.js';
import { JobQueue } from './jobs/queue.js';
import { JobRunner } from './jobs/runner.js';
import { createMetrics } from './metrics.js';
import { openSecretBox } from './outgoing/secret-box.js';
import { SiteClient } from './outgoing/site-client.js';
import { Readers } from './reading/readers.js';
import { createPreviewApp } from './preview/app.js';
import { createHandlers, type SharedParts } from './routes/index.js';
import type { Settings } from './settings.js';
import { measure } from './site/doctor/measure.js';
import { lineBase } from './site/line-address.js';
import { SiteChecks } from './site/site-checks.js';
import { Sets } from './site/sets.js';
import { LiveHub } from './site/live/live-hub.js';
import { SiteSummaries } from './site/site-summaries.js';
import { SiteSurveys } from './site/surveys/site-surveys.js';
import { SurveyBook } from './site/surveys/survey-book.js';
import { VERSION } from './version.js';
import { CopyStore } from './storage/copies/copy-store.js';
import { DatabaseWatch } from './storage/database-watch.js';
import { assertAnswers, migrate, prepareDatabase, storeOf } from './storage/orm.js';
import type { Store } from './storage/store.js';

interface FirstSignIn {
  readonly login: string;
  readonly password: string;
}

export interface Service {
  /** Address of console and API. */
  readonly address: string;
  /** Present as long as the administrator has not chosen a password. */
  readonly firstSignIn: FirstSignIn | undefined;
  /** Finishes what is under way, then stops. */
  close(): Promise<void>;
}

/** How long a call may still run when the service stops. */
const DRAIN_MS = 3_000;
const RETRY_MS = 1_000;

/**
 * Starts the service: console and API. With a database that it has served before and that does not answer just now, it
 * says so to whoever asks and waits; with one that never answered it does not start, as then the address is wrong.
 *
 * @throws when the port is taken, or the database does not answer and never did
 */
export async function startService(given: Settings, databaseUrl: string): Promise<Service> {
  const log = createLog(given.PRAGMATICA_LOG_LEVEL);
  const orm = await prepareDatabase(databaseUrl, given.PRAGMATICA_LIMITS);
  const watch = new DatabaseWatch(databaseUrl);
  const readers = new Readers(log.child({ part: 'readers' }));
  const known = knownDatabase(given, databaseUrl);
  let app: RequestListener | undefined;
  let previews: RequestListener | undefined;
  const previewServer = createServer((request, response) => {
    (previews ?? notReady)(request, response);
  });
  const previewPort = await listen(previewServer, given.PRAGMATICA_PREVIEW_PORT, given.PRAGMATICA_HOST);
  const settings = { ...given, PRAGMATICA_PREVIEW_PORT: previewPort };
  let jobs: JobRunner | undefined;
  let queue: JobQueue | undefined;
  let hub: LiveHub | undefined;
  let isClosed = false;
  const openApi = async (): Promise<FirstSignIn | undefined> => {
    await migrate(orm);
    const store = storeOf(orm);
    const firstSignIn = await ensureAdministrator(store.fork());
    const started = new JobQueue(databaseUrl, log, false);
    await started.start();
    queue = started;
    hub = new LiveHub(databaseUrl);
    await hub.start();
    const shared = { ...createShared(readers, settings, queue, new CopyStore(databaseUrl, orm)), hub };
    jobs = new JobRunner(createJobs(store, shared.summaries, readers, settings), log.child({ part: 'jobs' }));
    app = createApi(store, shared, jobs, watch, log);
    previews = createPreviews(store, shared, log);
    known.remember();
    return firstSignIn;
  };
  let firstSignIn: FirstSignIn | undefined;
  try {
    await assertAnswers(orm, databaseUrl);
    firstSignIn = await openApi();
  } catch (error) {
    if (!known.isKnown()) {
      previewServer.close();
      await Promise.all([orm.close(true), readers.close()]);
      throw error;
    }
    log.error({ err: error }, 'the database does not answer; the API waits for it');
    const retry = (): void => {
      if (isClosed) return;
      openApi().then(
        () => log.info('the database answers; the API is ready'),
        () => setTimeout(retry, RETRY_MS).unref(),
      );
    };
    setTimeout(retry, RETRY_MS).unref();
  }
  await watch.start();
  // A backup takes as long as it takes to come; whatever else does is given up by the app.
  const api = createServer({ requestTimeout: 0 }, (request, response) => {
    if (app) app(request, response);
    else notReady(request, response);
  });
  const port = await listen(api, settings.PRAGMATICA_PORT, settings.PRAGMATICA_HOST);
  log.info({ port }, 'started');
  return {
    address: `http://localhost:${port}`,
    firstSignIn,
    async close() {
      isClosed = true;
      await hub?.close();
      await Promise.all([drained(api), drained(previewServer)]);
      await Promise.all([jobs?.close(), queue?.close()]);
      await Promise.all([watch.close(), readers.close()]);
      await orm.close(true);
      log.info('stopped');
    },
  };
}

/** Takes nothing new, and finishes what is under way, within bounds. */
async function drained(server: Server): Promise<void> {
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), DRAIN_MS).unref();
  await closed;
}

/** A mark on disk for a database that the service has once run with. */
function knownDatabase(
  settings: Settings,
  databaseUrl: string,
): { isKnown: () => boolean; remember: () => void } {
  const folder = join(settings.PRAGMATICA_DATA, 'service');
  const file = join(folder, `database-${databaseName(databaseUrl)}`);
  return {
    isKnown: () => existsSync(file),
    remember: () => {
      mkdirSync(folder, { recursive: true, mode: 0o700 });
      writeFileSync(file, '');
    },
  };
}

function createShared(
  readers: Readers,
  settings: Settings,
  queue: JobQueue,
  copies: CopyStore,
): Omit<SharedParts, 'hub'> {
  const book = new SurveyBook(readers);
  const box = openSecretBox(settings.PRAGMATICA_SECRET_KEY, settings.PRAGMATICA_DATA);
  const client = new SiteClient(settings.PRAGMATICA_LOCAL_ORIGINS, box, (html, url) =>
    readers.run('passwordForm', { html, url }),
  );
  const checks = new SiteChecks({ readers, client }, book, lineBase(settings));
  const sets = new Sets();
  const surveys = new SiteSurveys(book, sets);
  return { settings, checks, sets, summaries: new SiteSummaries(checks, sets), surveys, queue, box, copies };
}

function createApi(
  store: Store,
  shared: SharedParts,
  jobs: JobRunner,
  watch: DatabaseWatch,
  log: Logger,
): RequestListener {
  const metrics = createMetrics(async () => measure(store.fork()));
  const consoleFolder = join(dirname(fileURLToPath(import.meta.url)), '../../console/dist/app');
  return createApp({
    store,
    handlers: createHandlers(shared),
    onChange: () => jobs.wake(),
    isDatabaseAnswering: () => watch.isAnswering,
    settings: shared.settings,
    log: log.child({ part: 'api' }),
    metrics: () => metrics.metrics(),
    consoleFolder,
    version: VERSION,
  });
}

function createPreviews(
  store: Store,
  { checks, sets, box, settings }: SharedParts,
  log: Logger,
): RequestListener {
  const { readers, client } = checks;
  return createPreviewApp({
    store,
    sets,
    readers,
    client,
    box,
    settings,
    log: log.child({ part: 'previews' }),
  });
}

/** The API before the database has ever answered (RFC 9457). */
const notReady: RequestListener = (request, response) => {
  if (request.url === '/healthz') {
    response.writeHead(200, { 'content-type': 'text/plain' }).end('ok\n');
    return;
  }
  const problem = toProblem(databaseAway(), request.url ?? '/');
  response
    .writeHead(503, { 'content-type': 'application/problem+json', 'retry-after': '5' })
    .end(JSON.stringify(problem));
};
