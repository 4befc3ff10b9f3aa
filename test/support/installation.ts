import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { freePort } from './free-port.js';
import { startProcess, type RunningProcess } from './service-process.js';
import { ADMIN, stageEnvironment } from './stage.js';

interface Postgres {
  url(database: string): string;
  createDatabase(name: string): Promise<void>;
  stop(): Promise<void>;
  kill(): Promise<void>;
  remove(): void;
}

/** What can be killed, in the order in which it starts. */
export type Part = 'database' | 'service' | 'worker' | 'gateway';

const PROGRAMS = { service: 'main.js', worker: 'worker-main.js', gateway: 'gateway' } as const;

/** Pragmatica as it is at work: every part a process of its own, with a database server of its own that loses nothing. */
export class Installation {
  readonly databaseUrl: string;
  readonly gatewayPort: number;
  readonly server: string;
  client!: ApiClient;
  readonly #environment: Readonly<Record<string, string>>;
  readonly #data: string;
  readonly #startDatabase: () => Promise<Postgres>;
  #database: Postgres;
  readonly #running = new Map<Part, RunningProcess>();

  private constructor(
    data: string,
    environment: Readonly<Record<string, string>>,
    database: Postgres,
    startDatabase: () => Promise<Postgres>,
  ) {
    this.databaseUrl = environment['DATABASE_URL']!;
    this.gatewayPort = Number(environment['PRAGMATICA_GATEWAY_PORT']);
    this.server = `http://localhost:${environment['PRAGMATICA_PORT']!}`;
    this.#data = data;
    this.#environment = environment;
    this.#database = database;
    this.#startDatabase = startDatabase;
  }

  static async start(parts: readonly Exclude<Part, 'database'>[]): Promise<Installation> {
    const data = mkdtempSync(join(tmpdir(), 'pragmatica-drill-'));
    // The database may have to run as another user, who must be let through.
    chmodSync(data, 0o711);
    const postgres = (await import(new URL('../../scripts/setup/postgres.mjs', import.meta.url).href)) as {
      startPostgres: (options: object) => Promise<Postgres>;
    };
    const port = await freePort();
    const bin = process.env['TEST_POSTGRES_BIN']!;
    const startDatabase = () => postgres.startPostgres({ bin, data, log: join(data, 'postgres.log'), port });
    const database = await startDatabase();
    await database.createDatabase('pragmatica');
    const environment = {
      ...stageEnvironment(data),
      PRAGMATICA_PORT: String(await freePort()),
      PRAGMATICA_GATEWAY_PORT: String(await freePort()),
      PRAGMATICA_GATEWAY_PROCESSES: '1',
      DATABASE_URL: database.url('pragmatica'),
    };
    const installation = new Installation(data, environment, database, startDatabase);
    for (const part of parts) await installation.start(part);
    return installation;
  }

  /** Starts one that does not run; the first time, the service gets its administrator. */
  async start(part: Part): Promise<void> {
    if (part === 'database') {
      this.#database = await this.#startDatabase();
      return;
    }
    const started = await startProcess(PROGRAMS[part], this.#environment);
    this.#running.set(part, started);
    if (started.password !== '') this.client = await signIn(this.server, started.password);
  }

  /** Ends one in the middle of whatever it does. */
  async kill(part: Part): Promise<void> {
    if (part === 'database') await this.#database.kill();
    else {
      await this.#running.get(part)!.kill();
      this.#running.delete(part);
    }
  }

  async close(): Promise<void> {
    for (const running of this.#running.values()) await running.kill();
    await this.#database.stop();
    this.#database.remove();
    rmSync(this.#data, { recursive: true, force: true });
  }
}

async function signIn(server: string, password: string): Promise<ApiClient> {
  const body = { login: ADMIN.login, password, newPassword: ADMIN.password, as: 'token' as const };
  const { data } = await createClient({ server, fetch: localhostFetch }).call('signIn', { body });
  return createClient({ server, token: data.token!, fetch: localhostFetch });
}
