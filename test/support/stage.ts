import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer, type AddressInfo, type Server as NetServer } from 'node:net';
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

/** What a stage begins with, made once per process: each stage gets a copy of it. */
interface Template {
  readonly database: string;
  readonly token: string;
  /** Of one with the demo, whose addresses stand in the database. */
  readonly seeded?: { readonly folder: string; readonly ports: Ports };
}

interface Ports {
  readonly providers: number;
  readonly site: number;
  readonly gateway: number;
}

const FREE: Ports = { providers: 0, site: 0, gateway: 0 };

let bare: Promise<Template> | undefined;
const seeded = new Map<string, Promise<Template>>();

/** A database with its tables and an administrator. */
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

async function bareTemplate(): Promise<Template> {
  bare ??= makeTemplate();
  bare.catch(() => (bare = undefined));
  return bare;
}

/** The same with the demo: seeding takes many times as long as a copy. */
async function seededTemplate(options: StageOptions): Promise<Template> {
  const { isWhole, chatHours } = options;
  const key = JSON.stringify([isWhole, chatHours]);
  const made =
    seeded.get(key) ??
    openStage(await bareTemplate(), { isWhole, chatHours, isToSeed: true }).then(async (stage) => {
      const { database, folder, token, ports } = stage;
      await stage.stop();
      process.once('exit', () => {
        rmSync(folder, { recursive: true, force: true });
      });
      return { database, token, seeded: { folder, ports } };
    });
  seeded.set(key, made);
  made.catch(() => seeded.delete(key));
  return made;
}

interface StageOptions {
  hasDemo?: boolean;
  isWhole?: boolean | undefined;
  hasWorker?: boolean;
  chatHours?: Hours | undefined;
  settings?: Record<string, string>;
  /** Service and worker as processes of their own, as they are at work. */
  inProcesses?: boolean;
}

/** These change what the demo holds, or where it stands. */
const CHANGES_DEMO = ['PRAGMATICA_LANGUAGE', 'PRAGMATICA_DATA', 'PRAGMATICA_GATEWAY_PORT'];

/** Starts a stage. @param options - with the demo site, its providers and the seed, unless said otherwise */
export async function startStage(options: StageOptions = {}): Promise<Stage> {
  const { hasDemo = true, settings = {} } = options;
  if (!hasDemo) return openStage(await bareTemplate(), options);
  const isLikeOthers = CHANGES_DEMO.every((name) => !(name in settings));
  const template = isLikeOthers ? await seededTemplate(options) : undefined;
  // Another stage of this process may stand there, or any other program.
  if (template && (await areFree(template.seeded!.ports))) return openStage(template, options);
  return openStage(await bareTemplate(), { ...options, isToSeed: true });
}

async function areFree(ports: Ports): Promise<boolean> {
  try {
    for (const port of Object.values(ports) as number[]) {
      const { server } = await listen(createServer(), port);
      await new Promise((resolve) => server.close(resolve));
    }
    return true;
  } catch {
    return false;
  }
}

interface OpenStage extends Stage {
  readonly database: string;
  readonly folder: string;
  readonly ports: Ports;
  /** Closes it and leaves what it has kept. */
  stop(): Promise<void>;
}

async function openStage(
  { database: from, token, seeded: before }: Template,
  {
    isWhole = false,
    hasWorker = false,
    chatHours = ALL_DAY,
    settings = {},
    inProcesses = false,
    isToSeed = false,
  }: StageOptions & { isToSeed?: boolean },
): Promise<OpenStage> {
  const database = `stage_${process.pid}_${++count}`;
  const databaseUrl = await createDatabase(database, from);
  const at = before?.ports ?? FREE;
  const providers = await listen(createProviderServer(), at.providers);
  let gatewayPort = at.gateway;
  const site = await listen(
    createSiteServer(providers.port, () => gatewayPort),
    at.site,
  );
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-stage-'));
  if (before) cpSync(before.folder, folder, { recursive: true });
  const environment = {
    ...stageEnvironment(folder),
    PRAGMATICA_GATEWAY_PORT: String(at.gateway),
    ...settings,
  };
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
  if (isToSeed)
    await seed({
      server,
      token,
      gatewayPort,
      sitePort: site.port,
      providerPort: providers.port,
      chatHours,
      isWhole,
    });
  const stop = async (): Promise<void> => {
    await worker?.close();
    await service.close();
    await gateway.close();
    for (const { server: started } of [providers, site]) {
      started.closeAllConnections();
      started.close();
    }
  };
  return {
    server,
    database,
    databaseUrl,
    folder,
    ports: { providers: providers.port, site: site.port, gateway: gateway.port },
    gatewayPort,
    sitePort: site.port,
    providerPort: providers.port,
    service,
    gateway,
    token,
    client: createClient({ server, token, fetch: localhostFetch }),
    stop,
    async close() {
      await stop();
      // What a worker finds is kept for readers of any language, and where they are read from alone.
      const misplaced = worker ? await misplacedWords(databaseUrl) : [];
      rmSync(folder, { recursive: true, force: true });
      if (misplaced.length > 0) throw new Error(`Words are kept in ${misplaced.join(', ')}`);
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

/** @param port - any free one when left out */
export async function listen<S extends NetServer>(server: S, port = 0): Promise<{ server: S; port: number }> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject);
      resolve();
    });
  });
  return { server, port: (server.address() as AddressInfo).port };
}

function missing(): never {
  throw new Error('TEST_DATABASE_URL is not set: run the tests with "npm test".');
}
