import { createServer, type RequestListener } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import { ensureAdministrator } from './auth/accounts.js';
import { openGateway, releaseFile } from './gateway/gateway-process.js';
import { startWorkers } from './gateway/workers.js';
import { createApp } from './http/app.js';
import { createMetrics, type Metrics } from './metrics.js';
import { createLog, listen } from './process.js';
import type { Settings } from './settings.js';
import { assertAnswers, migrate, prepareDatabase } from './storage/orm.js';

export const VERSION = '0.1.0';

interface FirstSignIn {
  readonly login: string;
  readonly password: string;
}

export interface Service {
  /** Address of console and API. */
  readonly address: string;
  readonly gatewayPort: number;
  /** Present as long as the administrator has not chosen a password. */
  readonly firstSignIn: FirstSignIn | undefined;
  /** Finishes what is under way, then stops: gateway, API, database, in this order. */
  close(): Promise<void>;
}

/** What serves visitors, in this process or in others. */
interface GatewaySide {
  readonly port: number;
  metrics(): Promise<string>;
  close(): Promise<void>;
}

/** How long a call may still run when the service stops. */
const DRAIN_MS = 3_000;
const RETRY_MS = 1_000;

/**
 * Starts service and gateway. While the database does not answer, the gateway serves the releases that it has on disk,
 * and the API says that it is not ready; without any on disk the service does not start.
 *
 * @throws when a port is taken, or the database does not answer and nothing was ever served
 */
export async function startService(settings: Settings, databaseUrl: string): Promise<Service> {
  const log = createLog(settings);
  const orm = await prepareDatabase(databaseUrl);
  const metrics = createMetrics();
  let app: RequestListener | undefined;
  let isClosed = false;
  // Until the gateway runs there is nothing of it to count.
  const side: { gateway?: GatewaySide } = {};
  const allMetrics = async (): Promise<string> =>
    (await metrics.process.metrics()) + ((await side.gateway?.metrics()) ?? '');
  const openApi = async (): Promise<FirstSignIn | undefined> => {
    await migrate(orm);
    const firstSignIn = await ensureAdministrator(orm.em.fork());
    app = createApi(orm, settings, log, allMetrics);
    return firstSignIn;
  };
  let firstSignIn: FirstSignIn | undefined;
  try {
    await assertAnswers(orm, databaseUrl);
    firstSignIn = await openApi();
  } catch (error) {
    if (!(await canServe(settings, databaseUrl))) {
      await orm.close(true);
      throw error;
    }
    log.error({ err: error }, 'the database does not answer; pages are served as they were');
    const retry = (): void => {
      if (isClosed) return;
      openApi().then(
        () => log.info('the database answers; the API is ready'),
        () => setTimeout(retry, RETRY_MS).unref(),
      );
    };
    setTimeout(retry, RETRY_MS).unref();
  }
  const api = createServer((request, response) => {
    if (app) app(request, response);
    else notReady(request, response);
  });
  const port = await listen(api, settings.PRAGMATICA_PORT, settings.PRAGMATICA_HOST);
  const gateway = await startGatewaySide(settings, databaseUrl, orm, log, metrics);
  side.gateway = gateway;
  log.info({ port, gatewayPort: gateway.port }, 'started');
  return {
    address: `http://localhost:${port}`,
    gatewayPort: gateway.port,
    firstSignIn,
    async close() {
      isClosed = true;
      await gateway.close();
      const closed = new Promise<void>((resolve) => api.close(() => resolve()));
      api.closeIdleConnections();
      setTimeout(() => api.closeAllConnections(), DRAIN_MS).unref();
      await closed;
      await orm.close(true);
      log.info('stopped');
    },
  };
}

async function startGatewaySide(
  settings: Settings,
  databaseUrl: string,
  orm: MikroORM,
  log: Logger,
  metrics: Metrics,
): Promise<GatewaySide> {
  const gatewayLog = log.child({ part: 'gateway' });
  if (settings.PRAGMATICA_GATEWAY_PROCESSES > 1)
    return startWorkers(settings.PRAGMATICA_GATEWAY_PROCESSES, gatewayLog);
  const running = await openGateway(settings, databaseUrl, orm, gatewayLog, metrics);
  return {
    port: await listen(running.gateway.server, settings.PRAGMATICA_GATEWAY_PORT, settings.PRAGMATICA_HOST),
    metrics: () => metrics.gateway.metrics(),
    close: () => running.close(),
  };
}

/** Whether there is something on disk to serve. */
async function canServe(settings: Settings, databaseUrl: string): Promise<boolean> {
  return (
    (await releaseFile(settings, databaseUrl)
      .read()
      .catch(() => undefined)) !== undefined
  );
}

function createApi(
  orm: MikroORM,
  settings: Settings,
  log: Logger,
  metrics: () => Promise<string>,
): RequestListener {
  const consoleFolder = join(dirname(fileURLToPath(import.meta.url)), '../../console/dist/app');
  return createApp({
    orm,
    settings,
    log: log.child({ part: 'api' }),
    metrics,
    consoleFolder,
    version: VERSION,
  });
}

/** The API before the database has ever answered (RFC 9457). */
const notReady: RequestListener = (request, response) => {
  if (request.url === '/healthz') {
    response.writeHead(200, { 'content-type': 'text/plain' }).end('ok\n');
    return;
  }
  const problem = {
    type: 'about:blank',
    title: 'The database does not answer',
    status: 503,
    detail:
      'Visitors get their pages as they were. Nothing can be looked at or changed until the database is back.',
  };
  response
    .writeHead(503, { 'content-type': 'application/problem+json', 'retry-after': '5' })
    .end(JSON.stringify(problem));
};
