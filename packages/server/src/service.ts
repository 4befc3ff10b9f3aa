import { createServer, type Server } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino, type Logger } from 'pino';
import { ensureAdministrator } from './auth/accounts.js';
import { createGateway } from './gateway/gateway.js';
import { ReleaseTable } from './gateway/release-table.js';
import { createApp } from './http/app.js';
import { createMetrics } from './metrics.js';
import type { Settings } from './settings.js';
import { migrate, openDatabase } from './storage/orm.js';

export const VERSION = '0.1.0';

export interface Service {
  /** Address of console and API. */
  readonly address: string;
  readonly gatewayPort: number;
  /** Present as long as the administrator has not chosen a password. */
  readonly firstSignIn: { readonly login: string; readonly password: string } | undefined;
  /** Finishes what is under way, then stops: gateway, API, database, in this order. */
  close(): Promise<void>;
}

/** Starts service and gateway on a database that exists. @throws when a port is taken or the database does not answer */
export async function startService(settings: Settings, databaseUrl: string): Promise<Service> {
  const log = createLog(settings);
  const orm = await openDatabase(databaseUrl);
  await migrate(orm);
  const firstSignIn = await ensureAdministrator(orm.em.fork());
  const metrics = createMetrics();
  const releases = new ReleaseTable(orm, databaseUrl, log.child({ part: 'gateway' }));
  await releases.start();
  const consoleFolder = join(dirname(fileURLToPath(import.meta.url)), '../../console/dist/app');
  const app = createApp({
    orm,
    settings,
    log: log.child({ part: 'api' }),
    metrics,
    consoleFolder,
    version: VERSION,
  });
  const api = createServer(app);
  const gateway = createGateway({ releases, log: log.child({ part: 'gateway' }), metrics });
  const port = await listen(api, settings.PRAGMATICA_PORT, settings.PRAGMATICA_HOST);
  const gatewayPort = await listen(
    gateway.server,
    settings.PRAGMATICA_GATEWAY_PORT,
    settings.PRAGMATICA_HOST,
  );
  log.info({ port, gatewayPort }, 'started');
  return {
    address: `http://localhost:${port}`,
    gatewayPort,
    firstSignIn,
    async close() {
      await gateway.close();
      const closed = new Promise<void>((resolve) => api.close(() => resolve()));
      api.closeIdleConnections();
      setTimeout(() => api.closeAllConnections(), DRAIN_MS).unref();
      await closed;
      await releases.close();
      await orm.close(true);
      log.info('stopped');
    },
  };
}

/** How long a call may still run when the service stops. */
const DRAIN_MS = 3_000;

function createLog(settings: Settings): Logger {
  return pino({
    level: settings.PRAGMATICA_LOG_LEVEL,
    redact: {
      paths: [
        'req.headers.authorization',
        'req.headers.cookie',
        'res.headers["set-cookie"]',
        '*.password',
        '*.newPassword',
        '*.secret',
        '*.token',
      ],
      censor: '[secret]',
    },
  });
}

async function listen(server: Server, port: number, host: string): Promise<number> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
  const address = server.address();
  return typeof address === 'object' && address ? address.port : port;
}
