import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { startPostgres, type Postgres } from './database.js';

/** The whole product as it is run, each of its processes apart, on a database of its own. */
export interface RunningService {
  readonly database: Postgres;
  readonly service: ChildProcess;
  readonly gateway: ChildProcess;
  readonly gatewayPort: number;
  /** Of the API. */
  readonly address: string;
  readonly token: string;
  readonly client: ApiClient;
  /** Ends everything, and leaves nothing on the disk. */
  readonly stop: () => Promise<void>;
}

interface Ready {
  readonly address: string;
  readonly firstSignIn: { readonly login: string; readonly password: string };
}

/**
 * Starts the built service and a gateway of one process on free ports, and signs in.
 *
 * @param more - further settings of the database server
 * @param hasWorker - with a process that does its jobs
 */
export async function startService(
  more: Readonly<Record<string, string>> = {},
  { hasWorker = false }: { readonly hasWorker?: boolean } = {},
): Promise<RunningService> {
  const data = mkdtempSync(join(tmpdir(), 'bench-'));
  const database = await startPostgres(data, more);
  const launch = (file: string): ChildProcess =>
    spawn(process.execPath, [fileURLToPath(new URL(`../packages/${file}`, import.meta.url))], {
      env: {
        ...process.env,
        DATABASE_URL: database.url,
        PRAGMATICA_PORT: '0',
        PRAGMATICA_GATEWAY_PORT: '0',
        PRAGMATICA_GATEWAY_STATUS_PORT: '0',
        PRAGMATICA_GATEWAY_PROCESSES: '1',
        PRAGMATICA_LOCAL_ORIGINS: '1',
        PRAGMATICA_LOG_LEVEL: 'silent',
        PRAGMATICA_DATA: data,
      },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
  const service = launch('server/dist/main.js');
  const [{ address, firstSignIn }] = (await once(service, 'message')) as [Ready];
  const gateway = launch('gateway/dist/main.js');
  const [{ gatewayPort }] = (await once(gateway, 'message')) as [{ readonly gatewayPort: number }];
  const worker = hasWorker ? launch('server/dist/worker-main.js') : undefined;
  if (worker) await once(worker, 'message');
  const signedIn = await createClient({ server: address, fetch: localhostFetch }).call('signIn', {
    body: { ...firstSignIn, newPassword: 'measuring what it can do', as: 'token' },
  });
  const token = signedIn.data.token!;
  return {
    database,
    service,
    gateway,
    gatewayPort,
    address,
    token,
    client: createClient({ server: address, token, fetch: localhostFetch }),
    stop: async () => {
      for (const child of [worker, gateway, service]) {
        if (!child) continue;
        child.disconnect();
        await once(child, 'exit');
      }
      await database.kill();
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** The processes that a process has started itself. */
export function childrenOf(pid: number): number[] {
  const listed = spawnSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' });
  return listed.stdout.trim().split(/\s+/).filter(Boolean).map(Number);
}
