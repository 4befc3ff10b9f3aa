import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, createServer, request as send } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { HOSTILE_CODE } from '../test/support/hostile-code.js';
import { startPostgres } from './soak-database.js';

/**
 * Pages through the gateway while the service is idle, and while it is as busy as it can be: whether anything that the
 * API, a check or a paste does reaches a visitor. `npm run bench -- isolation [--seconds N] [--sites N]`
 */
const option = (name: string, fallback: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  return at > 0 ? Number(process.argv[at + 1]) : fallback;
};
const SECONDS = option('seconds', 15);
const SITES = option('sites', 100);
const SNIPPETS = option('snippets', 500);
const MANY = option('many', 10_000);
/** Pages a second: a busy site, and far from what the gateway can do. */
const RATE = 100;
const HOST = 'isolation.localhost';
const PAGE = `<!doctype html><html><head><meta charset="utf-8"><title>Page</title></head><body>${'<p>A boat leaves every hour.</p>\n'.repeat(300)}</body></html>`;

const data = mkdtempSync(join(tmpdir(), 'isolation-'));
const database = await startPostgres(data);
const origin = createServer((_request, response) => {
  response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(PAGE);
}).listen(0, '127.0.0.1');
await once(origin, 'listening');
const originAddress = `http://127.0.0.1:${(origin.address() as AddressInfo).port}`;

function launch(name: 'server' | 'gateway'): ChildProcess {
  const main = fileURLToPath(new URL(`../packages/${name}/dist/main.js`, import.meta.url));
  return spawn(process.execPath, [main], {
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
}

interface Ready {
  readonly address: string;
  readonly firstSignIn: { readonly login: string; readonly password: string };
}
const service = launch('server');
const [ready] = (await once(service, 'message')) as [Ready];
const gateway = launch('gateway');
const [{ gatewayPort }] = (await once(gateway, 'message')) as [{ readonly gatewayPort: number }];
// One processor each, where there are two: what is measured is whether they share anything but the machine.
const treeOf = (pid: number): number[] => [
  pid,
  ...spawnSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' })
    .stdout.trim()
    .split(/\s+/)
    .filter(Boolean)
    .flatMap((child) => treeOf(Number(child))),
];
const pin = (pid: number, cpu: number): void => {
  for (const one of treeOf(pid)) spawnSync('taskset', ['-a', '-p', '-c', String(cpu), String(one)]);
};
pin(service.pid!, 0);
pin(gateway.pid!, 1);
pin(process.pid, 1);

const signedIn = await createClient({ server: ready.address, fetch: localhostFetch }).call('signIn', {
  body: { ...ready.firstSignIn, newPassword: 'measuring in isolation', as: 'token' },
});
const token = signedIn.data.token!;
const client: ApiClient = createClient({ server: ready.address, token, fetch: localhostFetch });

const code = (site: number, i: number): string =>
  `<script>window.site${site}name${i} = ${i}; (function () { var s = document.createElement('script'); s.async = true; s.src = 'https://provider-${i % 50}.example/${i}.js'; document.head.appendChild(s); })();</script>`;

async function makeSite(key: string, snippets: number, site: number): Promise<void> {
  const hosts = [
    {
      host: site === 0 ? HOST : `${key}.localhost`,
      environment: 'live' as const,
      origin: originAddress,
      address: null,
    },
  ];
  await client.call('createSite', { body: { key, name: key, timeZone: 'UTC', hosts } });
  // Written past the API: making fifty thousand snippets is not what is measured.
  await database.query(`
    insert into snippet (site_id, key, name, purpose, provider, note, state, include, exclude, updated_by, updated_at)
    select (select id from site where key = '${key}'), 's' || i, 'Snippet ' || i, '', '', '', 'on', '["/p' || i || '/*"]', '[]', 'bench', now()
    from generate_series(1, ${snippets}) i;
    insert into part (snippet_id, position, placement, rank, code)
    select s.id, 0, '"body-end"', row_number() over (order by s.id), replace(replace($code$${code(site, 7_777_777)}$code$, '7777777', substr(s.key, 2)), 'provider-27', 'provider-' || (s.id % 50))
    from snippet s where s.site_id = (select id from site where key = '${key}');
  `);
}

console.log(`Making ${SITES} sites of ${SNIPPETS} snippets and one of ${MANY} …`);
for (let site = 0; site < SITES; site++) await makeSite(`site-${site}`, SNIPPETS, site);
await makeSite('many', MANY, SITES);
await client.call('publish', {
  params: { site: 'site-0' },
  ifMatch: '*',
  body: { message: 'Measured', force: 'measuring' },
});

const agent = new Agent({ keepAlive: true });

function page(): Promise<number> {
  const begin = performance.now();
  return new Promise((resolve, reject) => {
    const asked = send(
      {
        agent,
        host: '127.0.0.1',
        port: gatewayPort,
        path: '/',
        headers: { host: HOST, accept: 'text/html' },
      },
      (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode === 200 ? performance.now() - begin : NaN));
      },
    );
    asked.on('error', reject);
    asked.end();
  });
}

interface Result {
  readonly p50: number;
  readonly p99: number;
  readonly failed: number;
  readonly done: number;
}

/** Pages at a steady rate while something else goes on. */
async function measure(work: (isOver: () => boolean) => Promise<number>): Promise<Result> {
  const state = { isOver: false };
  const working = work(() => state.isOver);
  const times: Promise<number>[] = [];
  const end = Date.now() + SECONDS * 1000;
  for (let next = Date.now(); Date.now() < end; next += 1000 / RATE) {
    times.push(page().catch(() => NaN));
    await new Promise((done) => setTimeout(done, Math.max(0, next - Date.now())));
  }
  const all = await Promise.all(times);
  state.isOver = true;
  const done = await working;
  const good = all.filter((time) => !Number.isNaN(time)).sort((a, b) => a - b);
  const at = (share: number): number => good[Math.min(good.length - 1, Math.floor(good.length * share))]!;
  return { p50: at(0.5), p99: at(0.99), failed: all.length - good.length, done };
}

async function repeat(isOver: () => boolean, step: () => Promise<unknown>): Promise<number> {
  let done = 0;
  while (!isOver()) {
    await step().catch(() => undefined);
    done++;
  }
  return done;
}

const lists = [
  '/sites',
  '/recipes',
  '/sites/site-1/findings',
  '/sites/site-2/snippets',
  '/sites/site-3/order',
  '/sites/site-4/releases',
];
const call = (path: string, body?: object): Promise<unknown> =>
  fetch(`${ready.address}/api/v1${path}`, {
    method: body ? 'POST' : 'GET',
    headers: { authorization: `Bearer ${token}`, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  }).then((answer) => answer.arrayBuffer());

const pastes = Object.values(HOSTILE_CODE);
const LOADS: readonly [string, (isOver: () => boolean) => Promise<number>][] = [
  ['idle', () => Promise.resolve(0)],
  [
    'every list of the API, in a loop',
    (isOver) => {
      let i = 0;
      return repeat(isOver, () => call(lists[i++ % lists.length]!));
    },
  ],
  [
    'a storm of hostile pastes, 4 at a time',
    async (isOver) => {
      let i = 0;
      const storm = await Promise.all(
        Array.from({ length: 4 }, () =>
          repeat(isOver, () => call('/read', { code: pastes[i++ % pastes.length] })),
        ),
      );
      return storm.reduce((sum, done) => sum + done, 0);
    },
  ],
  [
    `a check of ${MANY} snippets, again and again`,
    (isOver) => {
      let i = 0;
      return repeat(isOver, async () => {
        // Another set each time, so that nothing that was found before is used again.
        await database.query(
          `update snippet set name = 'Snippet ${i++}' where key = 's1' and site_id = (select id from site where key = 'many')`,
        );
        await call('/sites/many/findings');
      });
    },
  ],
  ['idle again', () => Promise.resolve(0)],
];

await measure(() => Promise.resolve(0));
console.log(
  `\n${RATE} pages a second of ${(PAGE.length / 1024).toFixed(0)} KB for ${SECONDS} s each, service on one processor, gateway on the other\n`,
);
console.log('| while | p50 ms | p99 ms | p99 of idle’s | failed | done beside |');
console.log('| --- | ---: | ---: | ---: | ---: | ---: |');
let idle: Result | undefined;
for (const [name, work] of LOADS) {
  const result = await measure(work);
  idle ??= result;
  const cells = [
    name,
    result.p50.toFixed(2),
    result.p99.toFixed(2),
    (result.p99 / idle.p99).toFixed(2),
    result.failed,
    result.done,
  ];
  console.log(`| ${cells.join(' | ')} |`);
}
for (const child of [gateway, service]) {
  child.disconnect();
  await once(child, 'exit');
}
origin.close();
await database.kill();
rmSync(data, { recursive: true, force: true });
process.exit(0);
