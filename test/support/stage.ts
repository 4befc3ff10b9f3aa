import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AddressInfo, Server as NetServer } from 'node:net';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { parseWeekly, type Hours } from '@pragmatica/core';
import { createProviderServer, createSiteServer, seed } from '@pragmatica/demo';
import { openGateway, readGatewaySettings, type RunningGateway } from '@pragmatica/gateway';
import { readSettings, startService, startWorker, type Service } from '@pragmatica/server';
import pg from 'pg';
import { misplacedWords } from './deferred-words.js';
import { startProcess } from './service-process.js';

export const ADMIN = { login: 'admin', password: 'a long and quiet password' } as const;

/** A whole Pragmatica on free ports with a database of its own, in this process. */
export interface Stage {
  readonly server: string;
  readonly databaseUrl: string;
  readonly gatewayPort: number;
  readonly sitePort: number;
  readonly providerPort: number;
  readonly service: Pick<Service, 'address' | 'close'>;
  readonly gateway: RunningGateway;
  /** A bearer token of the administrator, whose one-time password has been replaced. */
  readonly token: string;
  readonly client: ApiClient;
  close(): Promise<void>;
}

/** Open at whatever hour the tests run, and yet hours. */
const ALL_DAY: Hours = { weekly: parseWeekly('daily 00:00-24:00') };

/** An object is in use (PostgreSQL, error codes); it says so after five seconds. */
const IN_USE = '55006';

/** Suites make more calls in a minute than people do. */
const NO_RATES = 'calls-of-member=1000000, calls-of-stranger=1000000, calls-of-installation=1000000';

let count = 0;

interface Template {
  readonly database: string;
  readonly token: string;
}

let template: Promise<Template> | undefined;

/** A database with its tables and an administrator, made once per process: each stage gets a copy of it. */
async function makeTemplate(): Promise<Template> {
  const database = `template_${process.pid}_${++count}`;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-template-'));
  const service = await startService(readSettings(stageEnvironment(folder)), await createDatabase(database));
  const { data } = await createClient({ server: service.address, fetch: localhostFetch }).call('signIn', {
    body: {
      login: 'admin',
      password: service.firstSignIn!.password,
      newPassword: ADMIN.password,
      as: 'token',
    },
  });
  await service.close();
  rmSync(folder, { recursive: true, force: true });
  return { database, token: data.token! };
}

/** Starts a stage. @param hasDemo - with the demo site, its providers and the seed */
export async function startStage({
  hasDemo = true,
  isWhole = false,
  hasWorker = false,
  chatHours = ALL_DAY,
  settings = {},
  inProcesses = false,
}: {
  hasDemo?: boolean;
  isWhole?: boolean;
  hasWorker?: boolean;
  chatHours?: Hours;
  settings?: Record<string, string>;
  /** Service and worker as processes of their own, as they are at work. */
  inProcesses?: boolean;
} = {}): Promise<Stage> {
  template ??= makeTemplate();
  template.catch(() => (template = undefined));
  const { database, token } = await template;
  const databaseUrl = await createDatabase(`stage_${process.pid}_${++count}`, database);
  const providers = await listen(createProviderServer());
  let gatewayPort = 0;
  const site = await listen(createSiteServer(providers.port, () => gatewayPort));
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-stage-'));
  const environment = { ...stageEnvironment(folder), ...settings };
  const inOwn = { ...environment, DATABASE_URL: databaseUrl };
  const service = inProcesses
    ? await startProcess('main.js', inOwn)
    : await startService(readSettings(environment), databaseUrl);
  const { PRAGMATICA_GATEWAY_PORT: port } = environment;
  const gateway = await openGateway(
    readGatewaySettings({ ...stageEnvironment(folder), PRAGMATICA_GATEWAY_PORT: port }),
    databaseUrl,
  );
  const startOne = () =>
    inProcesses ? startProcess('worker-main.js', inOwn) : startWorker(readSettings(environment), databaseUrl);
  const worker = hasWorker ? await startOne() : undefined;
  const server = service.address;
  gatewayPort = gateway.port;
  if (hasDemo)
    await seed({
      server,
      token,
      gatewayPort,
      sitePort: site.port,
      providerPort: providers.port,
      chatHours,
      isWhole,
    });
  return {
    server,
    databaseUrl,
    gatewayPort,
    sitePort: site.port,
    providerPort: providers.port,
    service,
    gateway,
    token,
    client: createClient({ server, token, fetch: localhostFetch }),
    async close() {
      await worker?.close();
      await service.close();
      await gateway.close();
      // What a worker finds is kept for readers of any language, and where they are read from alone.
      const misplaced = worker ? await misplacedWords(databaseUrl) : [];
      if (misplaced.length > 0) throw new Error(`Words are kept in ${misplaced.join(', ')}`);
      rmSync(folder, { recursive: true, force: true });
      for (const { server: started } of [providers, site]) {
        started.closeAllConnections();
        started.close();
      }
    },
  };
}

/** Settings of service and gateway on free ports, with their files in a folder. */
export function stageEnvironment(data: string): Record<string, string> {
  return {
    PRAGMATICA_PORT: '0',
    PRAGMATICA_PREVIEW_PORT: '0',
    PRAGMATICA_GATEWAY_PORT: '0',
    // One sign-in serves all suites.
    PRAGMATICA_CONFIRMATION_MINUTES: '10000',
    PRAGMATICA_LINE_ADDRESS: 'https://code.example.com/one',
    PRAGMATICA_GATEWAY_STATUS_PORT: '0',
    PRAGMATICA_LIMITS: NO_RATES,
    PRAGMATICA_LOG_LEVEL: process.env['TEST_LOG'] ?? 'silent',
    PRAGMATICA_LOCAL_ORIGINS: '1',
    PRAGMATICA_DATA: data,
  };
}

/** Makes a database on the server that the test run started: an empty one, or a copy of another. */
export async function createDatabase(name: string, template = 'template1'): Promise<string> {
  const url = new URL(process.env['TEST_DATABASE_URL'] ?? missing());
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  // Connections that were ended may take a moment to be gone.
  for (let tries = 1; ; tries++)
    try {
      await client.query(`create database ${name} template ${template}`);
      break;
    } catch (error) {
      if (!(error instanceof pg.DatabaseError) || error.code !== IN_USE || tries === 5) throw error;
    }
  await client.end();
  url.pathname = `/${name}`;
  return url.href;
}

export async function listen<S extends NetServer>(server: S): Promise<{ server: S; port: number }> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { server, port: (server.address() as AddressInfo).port };
}

function missing(): never {
  throw new Error('TEST_DATABASE_URL is not set: run the tests with "npm test".');
}
