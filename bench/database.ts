import { join } from 'node:path';
import pg from 'pg';

/** A database server of its own that can be killed and started again at the same address. */
export interface Postgres {
  readonly url: string;
  /** Of the server's first process. */
  readonly pid: number;
  start(): Promise<void>;
  kill(): Promise<void>;
  /** Runs statements as they are. @returns the rows of the last one */
  query<T extends pg.QueryResultRow>(sql: string): Promise<T[]>;
}

interface Running {
  readonly pid: number;
  url(database: string): string;
  createDatabase(name: string): Promise<void>;
  kill(): Promise<void>;
}
interface SetUp {
  readonly ensureTools: (names: string[]) => Promise<{ postgresql: string }>;
  readonly startPostgres: (options: {
    bin: string;
    data: string;
    log: string;
    port?: number;
    more?: Readonly<Record<string, string>>;
  }) => Promise<Running>;
}

/** The set-up scripts are JavaScript. */
async function setUp(): Promise<SetUp> {
  const folder = new URL('../scripts/setup/', import.meta.url);
  const [debian, postgres] = await Promise.all(
    ['debian.mjs', 'postgres.mjs'].map((name) => import(new URL(name, folder).href) as Promise<object>),
  );
  return { ...debian, ...postgres } as SetUp;
}

/** @param more - further settings of the server */
export async function startPostgres(
  data: string,
  more: Readonly<Record<string, string>> = {},
): Promise<Postgres> {
  const { ensureTools, startPostgres: run } = await setUp();
  const { postgresql: bin } = await ensureTools(['postgresql']);
  const options = { bin, data, log: join(data, 'postgres.log'), more };
  let running = await run(options);
  await running.createDatabase('soak');
  const url = running.url('soak');
  const port = Number(new URL(url).port);
  return {
    url,
    pid: running.pid,
    start: async () => {
      running = await run({ ...options, port });
    },
    kill: () => running.kill(),
    async query<T extends pg.QueryResultRow>(sql: string) {
      const client = new pg.Client({ connectionString: url });
      await client.connect();
      const results: pg.QueryResult<T> | pg.QueryResult<T>[] = await client.query<T>(sql);
      await client.end();
      return (Array.isArray(results) ? (results as pg.QueryResult<T>[]).at(-1)! : results).rows;
    },
  };
}
