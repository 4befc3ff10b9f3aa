import { once } from 'node:events';
import { Agent, createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';

/** The visitors of the isolation bench, and the site's own server: pages at a steady rate, timed. */
const PAGE = `<!doctype html><html><head><meta charset="utf-8"><title>Page</title></head><body>${'<p>A boat leaves every hour.</p>\n'.repeat(300)}</body></html>`;
const origin = createServer((_request, response) => {
  response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(PAGE);
}).listen(0, '127.0.0.1');
await once(origin, 'listening');

interface Task {
  readonly seconds: number;
  /** Pages a second. */
  readonly rate: number;
  /** Of the gateway. */
  readonly port: number;
  readonly host: string;
}

const agent = new Agent({ keepAlive: true });

function page({ port, host }: Task): Promise<number> {
  const begin = performance.now();
  return new Promise((resolve) => {
    const asked = request(
      { agent, host: '127.0.0.1', port, path: '/', headers: { host, accept: 'text/html' } },
      (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode === 200 ? performance.now() - begin : NaN));
      },
    );
    asked.on('error', () => resolve(NaN));
    asked.end();
  });
}

async function visit(task: Task): Promise<void> {
  const { seconds, rate } = task;
  const times: Promise<number>[] = [];
  const end = Date.now() + seconds * 1000;
  for (let next = Date.now(); Date.now() < end; next += 1000 / rate) {
    times.push(page(task));
    await new Promise((done) => setTimeout(done, Math.max(0, next - Date.now())));
  }
  const all = await Promise.all(times);
  const good = all.filter((time) => !Number.isNaN(time)).sort((a, b) => a - b);
  const at = (share: number): number => good[Math.min(good.length - 1, Math.floor(good.length * share))]!;
  process.send!({ p50: at(0.5), p99: at(0.99), failed: all.length - good.length });
}

process.on('message', (task: Task) => void visit(task));
process.on('disconnect', () => process.exit());
process.send!({ originPort: (origin.address() as AddressInfo).port });
