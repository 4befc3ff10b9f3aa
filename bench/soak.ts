import { once } from 'node:events';
import { readFileSync, readdirSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createConnection, type AddressInfo } from 'node:net';
import { childrenOf, startService } from './service.js';

/**
 * The service under everything at once: visitors without a pause, a publish every second, the database killed and
 * restarted, the origin restarted, visitors that leave in the middle. `npm run bench -- soak --seconds 600`.
 */
const at = process.argv.indexOf('--seconds');
const SECONDS = at > 0 ? Number(process.argv[at + 1]) : 600;
const VISITORS = 16;
const DATABASE_EVERY = 60;
const ORIGIN_EVERY = 25;
const HOST = 'soak.localhost';

const rows = '<p>A boat leaves every hour, and one more when the tide is high.</p>\n'.repeat(400);
const PAGE = `<!doctype html><html><head><meta charset="utf-8"><title>Soak</title></head><body><h1>Soak</h1>\n${rows}</body></html>`;

/** Requests that the origin has answered whole, by their number; the gateway may fail none of these. */
const answered = new Set<string>();

function makeOrigin(): Server {
  return createServer((request, response) => {
    const id = request.url!;
    response.on('finish', () => answered.add(id));
    const strong = id.includes('strong') ? { etag: '"soak"', 'content-length': PAGE.length } : {};
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', ...strong });
    response.write(PAGE.slice(0, 9_000));
    setImmediate(() => response.end(PAGE.slice(9_000)));
  });
}

async function listen(server: Server, port = 0): Promise<number> {
  server.listen(port, '127.0.0.1');
  await once(server, 'listening');
  return (server.address() as AddressInfo).port;
}

let origin = makeOrigin();
const originPort = await listen(origin);
const { database, gateway, gatewayPort, client, stop } = await startService();
const [servingPid] = childrenOf(gateway.pid!);
const hosts = [
  { host: HOST, environment: 'live' as const, origin: `http://127.0.0.1:${originPort}`, address: null },
];
await client.call('createSite', { body: { key: 'soak', name: 'Soak', timeZone: 'UTC', hosts } });

const params = { site: 'soak' };
await client.call('createSnippet', {
  params,
  body: {
    key: 'mark',
    name: 'Mark',
    parts: [
      { placement: 'head-start', code: '<script></script>' },
      { placement: 'body-end', code: '<script></script>' },
    ],
  } as never,
});

let publishes = 0;
let refusedPublishes = 0;
/** What was said of those refused, and how often: only an absent database may be the reason. */
const refusals = new Map<string, number>();

/** Every release puts its own number at the head and at the foot. */
async function publish(): Promise<void> {
  const code = `<script data-release="${publishes + refusedPublishes + 1}"></script>`;
  const parts = [
    { placement: 'head-start', code },
    { placement: 'body-end', code },
  ];
  try {
    const of = { ...params, snippet: 'mark' };
    const snippet = await client.call('showSnippet', { params: of });
    await client.call('editSnippet', { params: of, ifMatch: snippet.etag, body: { parts } as never });
    const draft = await client.call('showDraft', { params });
    await client.call('publish', {
      params,
      ifMatch: draft.etag,
      body: { message: 'Soak', force: 'The same code stands at two places.' },
    });
    publishes++;
  } catch (error) {
    refusedPublishes++;
    const said = error instanceof Error ? error.message : String(error);
    refusals.set(said, (refusals.get(said) ?? 0) + 1);
  }
}

const counts = { pages: 0, aborted: 0, originDown: 0, failed: 0, mixed: 0, bare: 0 };
const faults: string[] = [];
let isOver = false;

function load(path: string, leaves: boolean): Promise<void> {
  return new Promise((resolve) => {
    let text = '';
    const socket = createConnection(gatewayPort, '127.0.0.1', () =>
      socket.write(`GET ${path} HTTP/1.1\r\nHost: ${HOST}\r\nAccept: text/html\r\nConnection: close\r\n\r\n`),
    );
    socket.on('data', (chunk: Buffer) => {
      text += chunk.toString('latin1');
      if (leaves && text.length > 2_000) socket.destroy();
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      judge(path, text, leaves);
      resolve();
    });
  });
}

function judge(path: string, text: string, leaves: boolean): void {
  if (leaves) {
    counts.aborted++;
    return;
  }
  const isWhole = text.startsWith('HTTP/1.1 200') && text.includes('</html>');
  if (!isWhole) {
    // Only what the origin did not answer may be missing.
    if (!answered.has(path)) counts.originDown++;
    else {
      counts.failed++;
      faults.push(`${path}: ${text.slice(0, 60).replace(/\r\n/g, ' ')} … ${text.length} bytes`);
    }
    return;
  }
  counts.pages++;
  const releases = [...text.matchAll(/data-release="(\d+)"/g)].map((match) => match[1]!);
  const said = /pragmatica-release: (\d+)/i.exec(text)?.[1];
  if (releases.length === 0 && said === undefined) counts.bare++;
  else if (releases.length !== 2 || releases[0] !== releases[1]) {
    counts.mixed++;
    faults.push(`${path}: releases ${releases.join()} and ${said ?? 'none'} said`);
  }
}

async function visit(index: number): Promise<void> {
  for (let i = 0; !isOver; i++) {
    const path = `/${index}/${i}${i % 3 === 0 ? '/strong' : ''}`;
    await load(path, i % 20 === 19);
    answered.delete(path);
  }
}

interface Sample {
  readonly second: number;
  readonly memory: number;
  readonly descriptors: number;
}
const samples: Sample[] = [];
const started = Date.now();
const seconds = (): number => (Date.now() - started) / 1000;
let databaseKills = 0;
let originRestarts = 0;

function sample(): void {
  const status = readFileSync(`/proc/${servingPid}/status`, 'utf8');
  samples.push({
    second: Math.round(seconds()),
    memory: Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024,
    descriptors: readdirSync(`/proc/${servingPid}/fd`).length,
  });
}

await publish();
const visitors = Array.from({ length: VISITORS }, (_, i) => visit(i));
let second = 0;
while (seconds() < SECONDS) {
  await new Promise((resolve) => setTimeout(resolve, 1_000));
  second++;
  void publish();
  if (second % 10 === 0) sample();
  if (second % DATABASE_EVERY === DATABASE_EVERY / 2) {
    databaseKills++;
    await database.kill();
    setTimeout(() => void database.start(), 4_000);
  }
  if (second % ORIGIN_EVERY === 0) {
    originRestarts++;
    const old = origin;
    old.closeAllConnections();
    old.close(() => {
      origin = makeOrigin();
      void listen(origin, originPort);
    });
  }
}
isOver = true;
await Promise.all(visitors);
await stop();
origin.closeAllConnections();
origin.close();

const { pages, aborted, originDown, failed, mixed, bare } = counts;
console.log(
  `${Math.round(seconds())} s, ${VISITORS} visitors: ${pages} pages (${(pages / seconds()).toFixed(0)}/s)`,
);
console.log(`${aborted} left in the middle, ${originDown} met an origin that was down`);
console.log(
  `${publishes} publishes (${refusedPublishes} more refused), ${databaseKills} times the database killed, ${originRestarts} times the origin restarted`,
);
console.log(
  `${failed} failed though the origin had answered, ${mixed} of two releases, ${bare} without a release`,
);
for (const { second: when, memory, descriptors } of samples.filter(
  (_, i) => i % Math.ceil(samples.length / 10) === 0,
))
  console.log(`  after ${when} s: ${memory.toFixed(0)} MB, ${descriptors} descriptors`);
for (const [said, times] of refusals) console.log(`  publish refused ${times} times: ${said}`);
for (const fault of faults.slice(0, 10)) console.log(fault);
// A soak that published nothing has shown nothing.
process.exitCode = failed + mixed > 0 || publishes === 0 ? 1 : 0;
