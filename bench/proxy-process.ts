import { readFileSync } from 'node:fs';
import { Agent, createServer, request as send } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pipeline } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { ReleasePlanner, type NamedPlacement, type Snapshot } from '@pragmatica/core';
import { createGateway, createMetrics } from '@pragmatica/gateway';
import { pino } from 'pino';

/** One process of the gateway's bench: `origin`, `bare PORT` or `gateway PORT`. It tells its CPU time when asked. */
const [kind, originPort] = process.argv.slice(2);

const HEAD =
  '<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>Skerrywick Ferries</title>\n' +
  '<link rel="stylesheet" href="/assets/site.css">\n</head>\n<body>\n<header><nav><a href="/timetables">Timetables</a> ' +
  '<a href="/fares">Fares</a> <a href="/islands">Islands</a></nav></header>\n<main>\n';
/** What an article is made of: headings, paragraphs with links, lists, a picture, a small table. */
const BLOCK =
  '<section class="story" id="north-pier">\n<h2>North Pier reopens</h2>\n<p>After a winter of repairs the North Pier ' +
  'is open again. The first boat calls at <strong>07:15</strong>, and the <a href="/timetables/summer" ' +
  'title="All summer sailings">summer timetable</a> holds from Monday. Bicycles travel free on every boat but one.</p>\n' +
  '<figure><img src="/assets/pier.jpg" alt="The North Pier at low water" width="640" height="360"></figure>\n<p>Please ' +
  'mind the new ramp: it is steeper than the old one when the tide is out. Staff are there to help with prams, ' +
  'wheelchairs and anything on wheels.</p>\n<ul class="links"><li><a href="/accessibility">Getting on board</a></li>' +
  '<li><a href="/contact">Ask the harbour office</a></li></ul>\n<table><tr><th>Boat</th><th>Leaves</th></tr>' +
  '<tr><td>Kittiwake</td><td>07:15</td></tr><tr><td>Guillemot</td><td>12:40</td></tr></table>\n</section>\n';

function page(kilobytes: number): string {
  const end = '</main>\n</body>\n</html>\n';
  const blocks = Math.max(1, Math.floor((kilobytes * 1024 - HEAD.length - end.length) / BLOCK.length));
  return HEAD + BLOCK.repeat(blocks) + end;
}

function origin(): ReturnType<typeof createServer> {
  const pages = new Map<string, { body: Buffer; headers: Record<string, string> }>();
  for (const size of [2, 30, 200]) {
    const body = Buffer.from(page(size));
    const html = { 'content-type': 'text/html; charset=utf-8' };
    const length = (bytes: Buffer): Record<string, string> => ({ 'content-length': String(bytes.length) });
    const packed = gzipSync(body, { level: 6 });
    pages.set(`/fresh/${size}`, { body, headers: { ...html, ...length(body) } });
    pages.set(`/strong/${size}`, { body, headers: { ...html, ...length(body), etag: `"v1-${size}"` } });
    pages.set(`/gzip/${size}`, {
      body: packed,
      headers: { ...html, ...length(packed), 'content-encoding': 'gzip' },
    });
  }
  let turn = 0;
  return createServer((request, response) => {
    if (request.url!.startsWith('/new/')) {
      const { body, headers } = pages.get(request.url!.replace('/new/', '/fresh/'))!;
      const another = Buffer.from(body);
      another.write(String(turn++).padStart(10, '0'), body.indexOf('Skerrywick'), 'latin1');
      response.writeHead(200, headers).end(another);
      return;
    }
    // As most servers do: packed only for those who take it.
    const takesGzip = request.headers['accept-encoding']?.includes('gzip') === true;
    const found = pages.get(takesGzip ? request.url! : request.url!.replace('/gzip/', '/fresh/'));
    if (!found) response.writeHead(404).end();
    else response.writeHead(200, found.headers).end(found.body);
  });
}

/** A proxy that changes nothing. */
function bare(): ReturnType<typeof createServer> {
  const agent = new Agent({ keepAlive: true, maxSockets: 128 });
  return createServer((request, response) => {
    const outgoing = send(
      { agent, port: originPort, method: request.method, path: request.url, headers: request.headers },
      (answer) => {
        response.writeHead(answer.statusCode!, answer.headers);
        pipeline(answer, response, () => undefined);
      },
    );
    outgoing.on('error', () => response.destroy());
    request.pipe(outgoing);
  });
}

function gateway(): ReturnType<typeof createServer> {
  const placements: NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end', 'body-end'];
  const snapshot: Snapshot = {
    format: 'pragmatica-set/1',
    site: { key: 'bench', name: 'Bench', timeZone: 'UTC' },
    snippets: placements.map((placement, i) => ({
      key: `s${i}`,
      name: `S${i}`,
      purpose: '',
      provider: '',
      note: '',
      state: 'on',
      pages: { include: [], exclude: [] },
      parts: [
        { placement, rank: i, code: `<script src="https://tallymast.example/${i}.js" async></script>` },
      ],
    })),
  };
  const release = { number: 1, digest: 'ab'.repeat(32), planner: new ReleasePlanner(snapshot) };
  const origins = [`http://127.0.0.1:${originPort!}`];
  return createGateway({
    releases: { find: (host) => ({ host, site: 'bench', environment: 'live', origins, release }) },
    log: pino({ level: 'error' }),
    metrics: createMetrics(),
  }).server;
}

const make = { origin, bare, gateway }[kind as 'origin' | 'bare' | 'gateway'];
const server = make();
server.keepAliveTimeout = 60_000;
server.listen(0, '127.0.0.1', () => process.send!({ port: (server.address() as AddressInfo).port }));
process.on('message', () => {
  const { user, system } = process.cpuUsage();
  const status = readFileSync('/proc/self/status', 'utf8');
  process.send!({ cpu: user + system, memory: Number(/VmRSS:\s+(\d+)/.exec(status)![1]) });
});
process.on('disconnect', () => process.exit());
