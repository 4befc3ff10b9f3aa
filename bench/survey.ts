import { fork, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { startService, type RunningService } from './service.js';

/**
 * What a survey costs: pages a second, memory and disk at three sizes of a site, beside parsing the same bytes alone on
 * the same processors. `npm run bench -- survey [pages …]` takes other sizes.
 */
const SIZES = [2_000, 20_000, 100_000];
const PARSED = 6_000;
const PARSERS = 2;
const EVERY_MS = 500;

interface Figures {
  readonly pages: number;
  readonly firstS: number;
  readonly repeatS: number;
  readonly peakMb: number;
  readonly databaseMb: number;
  readonly listMs: number;
}

const fileOf = (name: string): string => fileURLToPath(new URL(name, import.meta.url));

/** Pages a second where nothing is done but parsing, by as many processes as there are reader threads. */
async function parseAlone(): Promise<number> {
  const processes = Array.from({ length: PARSERS }, () =>
    fork(fileOf('survey-parse.ts'), [String(PARSED / PARSERS)], { execArgv: ['--import', 'tsx'] }),
  );
  // All begin together, once all are there.
  await Promise.all(processes.map((child) => once(child, 'message')));
  const answers = processes.map((child) => once(child, 'message') as Promise<[number]>);
  for (const child of processes) child.send('go');
  const seconds = Math.max(...(await Promise.all(answers)).map(([ms]) => ms)) / 1000;
  for (const child of processes) child.disconnect();
  return PARSED / seconds;
}

async function startSite(pages: number): Promise<{ port: number; child: ChildProcess }> {
  const child = fork(fileOf('survey-site.ts'), [String(pages)], { execArgv: ['--import', 'tsx'] });
  const [port] = (await once(child, 'message')) as [number];
  return { port, child };
}

async function startWorker(databaseUrl: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, [fileOf('../packages/server/dist/worker-main.js')], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PRAGMATICA_LOCAL_ORIGINS: '1',
      PRAGMATICA_LOG_LEVEL: 'warn',
    },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  await once(child, 'message');
  return child;
}

/** @returns seconds from its beginning to its end, as the survey itself says */
async function survey({ client }: RunningService, site: string, pages: number): Promise<number> {
  const { data } = await client.call('startSurvey', {
    params: { site },
    body: { limit: pages, concurrency: 16 },
  });
  for await (const { survey: now } of client.stream('watchSurvey', { params: { site, survey: data.number } }))
    if (now.state === 'done') {
      if (now.visited !== pages) throw new Error(`${now.visited} of ${pages} pages were visited.`);
      return (Date.parse(now.endedAt!) - Date.parse(now.createdAt)) / 1000;
    }
  throw new Error('The survey did not come to its end.');
}

function residentMb(pid: number): number {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  return Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024;
}

async function measure(service: RunningService, worker: ChildProcess, pages: number): Promise<Figures> {
  const { port, child } = await startSite(pages);
  const site = `site-${pages}`;
  const address = `http://localhost:${port}`;
  const hosts = [{ host: `${site}.localhost`, environment: 'live' as const, origin: address, address }];
  await service.client.call('createSite', { body: { key: site, name: site, hosts } });
  let peakMb = 0;
  const timer = setInterval(() => (peakMb = Math.max(peakMb, residentMb(worker.pid!))), EVERY_MS);
  const before = await databaseMb(service);
  const firstS = await survey(service, site, pages);
  const databaseGrewMb = (await databaseMb(service)) - before;
  const repeatS = await survey(service, site, pages);
  clearInterval(timer);
  child.disconnect();
  const listMs = await slowestList(service, site);
  return { pages, firstS, repeatS, peakMb, databaseMb: databaseGrewMb, listMs };
}

async function databaseMb({ database }: RunningService): Promise<number> {
  const [row] = await database.query<{ bytes: string }>(
    `select sum(pg_total_relation_size(c.oid))::bigint as bytes from pg_class c
     where c.relname in ('survey_page', 'survey_text', 'sighting', 'composition', 'survey_shape') and c.relkind = 'r'`,
  );
  return Number(row!.bytes) / 1e6;
}

/** The slowest of the lists, each asked twice: what a survey saw is put together once. */
async function slowestList({ client }: RunningService, site: string): Promise<number> {
  const params = { site, survey: 'latest' as const };
  const lists = [
    () => client.call('listSightings', { params, query: {} }),
    () => client.call('showCoverage', { params }),
    () => client.call('listSurveyPages', { params, query: {} }),
    () => client.call('listSurveyPages', { params, query: { only: 'problems' } }),
  ];
  const times: number[] = [];
  for (const list of lists) {
    await list();
    const start = performance.now();
    await list();
    times.push(performance.now() - start);
  }
  return Math.max(...times);
}

const sizes = process.argv.slice(2).map(Number);
const service = await startService();
const worker = await startWorker(service.database.url);
try {
  const alone = await parseAlone();
  console.log(`Parsing alone, ${PARSERS} processes: ${Math.round(alone)} pages/s\n`);
  console.log(
    '| pages | pages/s | of parsing alone | repeat | memory of the worker | database | slowest list |',
  );
  console.log(
    '| ----: | ------: | ---------------: | -----: | -------------------: | -------: | -----------: |',
  );
  for (const pages of sizes.length > 0 ? sizes : SIZES) {
    const { firstS, repeatS, peakMb, databaseMb: mb, listMs } = await measure(service, worker, pages);
    const speed = pages / firstS;
    console.log(
      `| ${pages.toLocaleString('en')} | ${Math.round(speed)} | ${(speed / alone).toFixed(2)} | ${(firstS / repeatS).toFixed(1)} times as fast | ${Math.round(peakMb)} MB | ${mb.toFixed(1)} MB | ${listMs.toFixed(0)} ms |`,
    );
  }
} finally {
  worker.disconnect();
  await once(worker, 'exit');
  await service.stop();
}
