import { fork, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createConnection, createServer, type AddressInfo } from 'node:net';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { median } from './median.js';

/**
 * The gateway with five parts beside proxies that change nothing: a bare one on node:http, and nginx where it is
 * installed. One origin, 64 connections, all in one run and in turns.
 */
const CONNECTIONS = 64;
const SECONDS = Number(process.env['BENCH_SECONDS'] ?? 2);
const ROUNDS = Number(process.env['BENCH_ROUNDS'] ?? 3);
/** Requests a second where all are asked for the same. */
const EQUAL = 300;
const SIZES = [2, 30, 200];
const KINDS = (process.env['BENCH_KINDS'] ?? 'fresh strong gzip new').split(' ').filter(Boolean);

/** Asked for with gzip: pages that stay the same, and pages with other bytes each time. */
const PACKED = /^\/(?:gzip|new)\//;

interface Usage {
  readonly cpu: number;
  readonly memory: number;
}

interface Proxy {
  readonly name: string;
  readonly port: number;
  usage(): Promise<Usage>;
  stop(): void;
}

const file = fileURLToPath(new URL('./proxy-process.ts', import.meta.url));

async function start(name: string, ...args: string[]): Promise<Proxy> {
  const child: ChildProcess = fork(file, args, { execArgv: ['--import', 'tsx'] });
  const [{ port }] = (await once(child, 'message')) as [{ port: number }];
  return {
    name,
    port,
    usage: async () => {
      child.send('usage');
      const [usage] = (await once(child, 'message')) as [Usage];
      return usage;
    },
    stop: () => child.disconnect(),
  };
}

/**
 * nginx as a reverse proxy with one worker, from its own folder. `edits` does what the gateway does: it asks the origin
 * for the plain page, puts text in at two places, and compresses at level 1.
 */
async function startNginx(name: string, originPort: number, edits: boolean): Promise<Proxy> {
  const port = await freePort();
  const folder = mkdtempSync(join(tmpdir(), 'bench-nginx-'));
  const configuration = join(folder, 'nginx.conf');
  const tag = '<script src="https://tallymast.example/0.js" async></script>';
  const editing = edits
    ? `proxy_set_header Accept-Encoding ""; sub_filter_once on; sub_filter '</head>' '${tag}${tag}</head>'; sub_filter '</body>' '${tag}${tag}</body>';
       gzip on; gzip_comp_level 1; gzip_min_length 256; gzip_proxied any; gzip_vary on;`
    : '';
  writeFileSync(
    configuration,
    `worker_processes 1; daemon off; pid ${folder}/pid; error_log ${folder}/error.log;
events { worker_connections 1024; }
http {
  access_log off; client_body_temp_path ${folder}/b; proxy_temp_path ${folder}/p; fastcgi_temp_path ${folder}/f;
  uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;
  upstream origin { server 127.0.0.1:${originPort}; keepalive 128; }
  server { listen 127.0.0.1:${port}; location / { proxy_pass http://origin; proxy_http_version 1.1; proxy_set_header Connection ""; ${editing} } }
}`,
  );
  const child = spawn('/usr/sbin/nginx', ['-c', configuration, '-p', folder], { stdio: 'ignore' });
  for (let i = 0; i < 50 && !(await answers(port)); i++)
    await new Promise((resolve) => setTimeout(resolve, 50));
  const worker = spawnSync('ps', ['-o', 'pid=', '--ppid', String(child.pid!)], {
    encoding: 'utf8',
  }).stdout.trim();
  return {
    name,
    port,
    usage: () => Promise.resolve(usageOf(worker.split(/\s+/)[0]!)),
    stop: () => {
      child.kill();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Debian's package, without the service that it would start. */
function installNginx(): boolean {
  if (existsSync('/usr/sbin/nginx')) return true;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return false;
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive', RUNLEVEL: '1' };
  spawnSync('apt-get', ['update'], { stdio: 'ignore', env });
  spawnSync('apt-get', ['install', '-y', '--no-install-recommends', 'nginx-light'], { stdio: 'ignore', env });
  return existsSync('/usr/sbin/nginx');
}

function usageOf(pid: string): Usage {
  const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    .replace(/^.*\) /, '')
    .split(' ');
  const ticks = Number(stat[11]) + Number(stat[12]);
  return {
    cpu: ticks * 10_000,
    memory: Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]),
  };
}

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  server.close();
  return port;
}

function answers(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = createConnection(port, '127.0.0.1', () => resolve(true));
    socket.on('error', () => resolve(false));
  });
}

interface Load {
  readonly perSecond: number;
  readonly p50: number;
  readonly p99: number;
  readonly cpu: number;
  readonly memory: number;
}

/** Asks as fast as answers come, or so many times a second. */
async function load(proxy: Proxy, path: string, perSecond?: number): Promise<Load> {
  const request = `GET ${path} HTTP/1.1\r\nHost: bench.localhost\r\nAccept: text/html\r\n${PACKED.test(path) ? 'Accept-Encoding: gzip\r\n' : ''}\r\n`;
  const times: number[] = [];
  let isOver = false;
  const pause = perSecond === undefined ? 0 : (CONNECTIONS * 1000) / perSecond;
  const client = (index: number): Promise<void> =>
    new Promise((resolve, reject) => {
      const socket = createConnection(proxy.port, '127.0.0.1');
      socket.setNoDelay(true);
      let sent = 0;
      let left = -1;
      let head = '';
      const ask = (): void => {
        if (isOver) {
          socket.destroy();
          resolve();
          return;
        }
        left = -1;
        head = '';
        sent = performance.now();
        socket.write(request);
      };
      const done = (): void => {
        times.push(performance.now() - sent);
        if (pause > 0) setTimeout(ask, pause);
        else ask();
      };
      socket.on('connect', () => setTimeout(ask, (index * pause) / CONNECTIONS));
      socket.on('error', reject);
      socket.on('data', (data: Buffer) => {
        if (left === -1) {
          head += data.toString('latin1');
          const end = head.indexOf('\r\n\r\n');
          if (end < 0) return;
          if (!head.startsWith('HTTP/1.1 200')) reject(new Error(head.slice(0, 40)));
          const length = /\r\ncontent-length: (\d+)/i.exec(head);
          left = length ? Number(length[1]) - (head.length - end - 4) : -2;
        } else if (left >= 0) left -= data.length;
        if (left === 0 || (left === -2 && data.subarray(-5).toString('latin1') === '0\r\n\r\n')) done();
      });
    });
  const before = await proxy.usage();
  const start = performance.now();
  const clients = Array.from({ length: CONNECTIONS }, (_, i) => client(i));
  await new Promise((resolve) => setTimeout(resolve, SECONDS * 1000));
  isOver = true;
  const seconds = (performance.now() - start) / 1000;
  const count = times.length;
  const after = await proxy.usage();
  await Promise.all(clients);
  times.sort((a, b) => a - b);
  const at = (share: number): number => times[Math.floor(times.length * share)] ?? 0;
  return {
    perSecond: count / seconds,
    p50: at(0.5),
    p99: at(0.99),
    cpu: (after.cpu - before.cpu) / count,
    memory: after.memory,
  };
}

const origin = await start('origin', 'origin');
const bare = await start('bare node:http', 'bare', String(origin.port));
const gateway = await start('gateway, 5 parts', 'gateway', String(origin.port));
const nginx = installNginx()
  ? [
      await startNginx('nginx, plain', origin.port, false),
      await startNginx('nginx, text put in', origin.port, true),
    ]
  : [];
const proxies = [bare, gateway, ...nginx];
console.log(
  `${CONNECTIONS} connections, ${ROUNDS} rounds of ${SECONDS} s; ${cpus().length} × ${cpus()[0]!.model}, Node ${process.version}`,
);
if (nginx.length === 0) console.log('nginx could not be installed; its rows are missing');
for (const proxy of proxies) for (const kind of KINDS) await load(proxy, `/${kind}/30`);

console.log(
  '\n| page | through | requests/s | of bare | p50 ms | p99 ms | CPU µs/request | of bare | memory MB |',
);
console.log('| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: |');
for (const kind of KINDS) {
  for (const size of SIZES) {
    const results = new Map<Proxy, Load[]>(proxies.map((proxy) => [proxy, []]));
    for (let round = 0; round < ROUNDS; round++)
      for (const proxy of proxies) results.get(proxy)!.push(await load(proxy, `/${kind}/${size}`));
    const of = (proxy: Proxy, key: keyof Load): number =>
      median(results.get(proxy)!.map((result) => result[key]));
    for (const proxy of proxies) {
      const cells = [
        `${size} KB, ${kind}`,
        proxy.name,
        of(proxy, 'perSecond').toFixed(0),
        (of(proxy, 'perSecond') / of(bare, 'perSecond')).toFixed(2),
        of(proxy, 'p50').toFixed(1),
        of(proxy, 'p99').toFixed(1),
        of(proxy, 'cpu').toFixed(0),
        (of(proxy, 'cpu') / of(bare, 'cpu')).toFixed(2),
        (of(proxy, 'memory') / 1024).toFixed(0),
      ];
      console.log(`| ${cells.join(' | ')} |`);
    }
  }
}

console.log(`\nAt an equal load of ${EQUAL} requests/s (median of ${ROUNDS} rounds):`);
for (const size of SIZES) {
  const results = new Map<Proxy, Load[]>(proxies.map((proxy) => [proxy, []]));
  for (let round = 0; round < ROUNDS; round++)
    for (const proxy of proxies) results.get(proxy)!.push(await load(proxy, `/fresh/${size}`, EQUAL));
  const of = (proxy: Proxy, key: 'p50' | 'p99'): string =>
    median(results.get(proxy)!.map((result) => result[key])).toFixed(2);
  const lines = proxies.map((proxy) => `${proxy.name} p50 ${of(proxy, 'p50')} p99 ${of(proxy, 'p99')} ms`);
  console.log(`${size} KB: ${lines.join('; ')}`);
}
for (const proxy of [...proxies, origin]) proxy.stop();
