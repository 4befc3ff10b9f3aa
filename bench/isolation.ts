import { fork, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { HOSTILE_CODE } from '../test/support/hostile-code.js';
import { childrenOf, startService } from './service.js';

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

/** Visitors and the site's own server, in a process of their own: what the loads cost this one is not the gateway's. */
const visitors = fork(fileURLToPath(new URL('./isolation-visitors.ts', import.meta.url)), {
  execArgv: ['--import', 'tsx'],
});
const [{ originPort }] = (await once(visitors, 'message')) as [{ readonly originPort: number }];
const originAddress = `http://127.0.0.1:${originPort}`;

const { database, service, gateway, gatewayPort, address, token, client, stop } = await startService();
// One processor each, where there are two: what is measured is whether they share anything but the machine.
const treeOf = (pid: number): number[] => [pid, ...childrenOf(pid).flatMap(treeOf)];
const pin = (pid: number, cpu: number): void => {
  for (const one of treeOf(pid)) spawnSync('taskset', ['-a', '-p', '-c', String(cpu), String(one)]);
};
pin(database.pid, 0);
pin(service.pid!, 0);
pin(gateway.pid!, 1);
pin(process.pid, 0);

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
    select (select id from site where key = '${key}'), 's' || i, 'Snippet ' || i, '', '', '', 'on', ('["/p' || i || '/*"]')::jsonb, '[]'::jsonb, 'bench', now()
    from generate_series(1, ${snippets}) i;
    insert into part (snippet_id, position, placement, rank, code)
    select s.id, 0, '"body-end"'::jsonb, row_number() over (order by s.id), replace(replace($code$${code(site, 7_777_777)}$code$, '7777777', substr(s.key, 2)), 'provider-27', 'provider-' || (s.id % 50))
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

interface Visited {
  readonly p50: number;
  readonly p99: number;
  readonly failed: number;
}

pin(visitors.pid!, 1);

/** Pages at a steady rate while something else goes on. */
async function measure(work: Work): Promise<Visited & { done: number }> {
  const state = { isOver: false };
  const working = work(() => state.isOver);
  visitors.send({ seconds: SECONDS, rate: RATE, port: gatewayPort, host: HOST });
  const [visited] = (await once(visitors, 'message')) as [Visited];
  state.isOver = true;
  return { ...visited, done: await working };
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
  fetch(`${address}/api/v1${path}`, {
    method: body ? 'POST' : 'GET',
    headers: { authorization: `Bearer ${token}`, ...(body ? { 'content-type': 'application/json' } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  }).then((answer) => answer.arrayBuffer());

const pastes = Object.values(HOSTILE_CODE);
type Work = (isOver: () => boolean) => Promise<number>;

const idle: Work = () => Promise.resolve(0);
/**
 * A program that has nothing to do with any of this keeps the service's processor as busy as the service would: what
 * visitors notice of it is the machine's, whose processors share memory, caches and perhaps a core.
 */
const stranger: Work = async (isOver) => {
  const busy =
    'for (;;) JSON.parse(JSON.stringify(Array.from({ length: 20000 }, (_, i) => ({ i, s: "x".repeat(i % 50) }))))';
  const child = spawn('taskset', ['-c', '0', process.execPath, '-e', busy], { stdio: 'ignore' });
  while (!isOver()) await new Promise((resolve) => setTimeout(resolve, 100));
  child.kill('SIGKILL');
  return 0;
};

const LOADS: readonly [string, Work][] = [
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
];

// What was just written is tidied up by the database first.
await database.query('vacuum analyze');
await measure(idle);
console.log(
  `\n${RATE} pages a second for ${SECONDS} s each, service on one processor, gateway on the other\n`,
);
console.log(
  '| while | p50 ms | p99 ms | idle just before | a stranger just before | p99 of idle’s | p99 of the stranger’s | failed | done beside |',
);
console.log('| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |');
for (const [name, work] of LOADS) {
  const before = await measure(idle);
  const beside = await measure(stranger);
  const result = await measure(work);
  const cells = [
    name,
    result.p50.toFixed(2),
    result.p99.toFixed(2),
    before.p99.toFixed(2),
    beside.p99.toFixed(2),
    (result.p99 / before.p99).toFixed(2),
    (result.p99 / beside.p99).toFixed(2),
    before.failed + beside.failed + result.failed,
    result.done,
  ];
  console.log(`| ${cells.join(' | ')} |`);
}
visitors.disconnect();
await stop();
process.exit(0);
