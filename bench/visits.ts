import { execFileSync } from 'node:child_process';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { BrowserPool, startChromium, type VisitOrder } from '@pragmatica/visitor';
import { DEVICE_WINDOWS } from '@pragmatica/core';
import type { Browser } from 'playwright-core';
import { median } from './median.js';
import { measureWhy } from './why.js';

/*
 * Visits a minute against the same browser doing the same navigation and nothing else, at 1, 2 and 4 at once; and what the
 * browser’s memory does over many visits; and how long the answer to “why doesn’t it show?” takes. `npm run bench -- visits [VISITS]`
 */

/** The two take turns: what else the machine does falls on both. */
const TURNS = 4;
const EACH = 12;
const MEMORY_VISITS = Number(process.argv[2] ?? 200);
const PROVIDERS = 6;

const server = createServer((request, response) => {
  const { url = '/' } = request;
  if (url.startsWith('/p.js'))
    response
      .writeHead(200, { 'content-type': 'text/javascript' })
      .end(
        `(function(){var d=document.createElement('div');d.textContent='x';d.style.cssText='position:fixed;right:0;top:'+Math.random()*500+'px';document.body.appendChild(d);document.cookie='a=1';new Image().src='/hit?${url}'+Math.random()})()`,
      );
  else if (url.startsWith('/hit')) response.writeHead(204).end();
  else
    response
      .writeHead(200, { 'content-type': 'text/html' })
      .end(
        `<!doctype html><html><head><title>x</title></head><body>${'<p>Between three islands, <a href="/x">every day</a>.</p>'.repeat(150)}${Array.from({ length: PROVIDERS }, (_, index) => `<script src="/p.js?${index}"></script>`).join('')}</body></html>`,
      );
});
await new Promise<void>((resolve) => {
  server.listen(0, '127.0.0.1', resolve);
});
const address = `http://bench.localhost:${(server.address() as AddressInfo).port}`;

async function inLanes(lanes: number, count: number, work: () => Promise<void>): Promise<number> {
  const began = performance.now();
  let left = count;
  await Promise.all(
    Array.from({ length: lanes }, async () => {
      while (left-- > 0) await work();
    }),
  );
  return (count / (performance.now() - began)) * 60_000;
}

/** The same navigation: a profile of its own, the page, until it has been quiet for half a second, and a picture. */
async function bareVisit(browser: Browser): Promise<void> {
  const context = await browser.newContext({ viewport: DEVICE_WINDOWS.desktop });
  const page = await context.newPage();
  await page.goto(address, { waitUntil: 'networkidle' });
  await page.screenshot({ type: 'jpeg', quality: 60 });
  await context.close();
}

const order: VisitOrder = {
  address,
  ownOrigins: [],
  script: { device: 'desktop', steps: [{ do: 'open', path: '/' }] },
  thirdParties: { usual: 'real', hosts: [] },
};
const executable = process.env['PRAGMATICA_CHROMIUM'];
const bare = await startChromium({ executable });
const pool = new BrowserPool({ executable, visitsPerBrowser: 1_000_000 });
await bareVisit(bare.browser);
await pool.visit(order);

console.log('visits a minute      bare    visits   ratio');
for (const lanes of [1, 2, 4]) {
  const turns: { readonly plain: number; readonly ours: number }[] = [];
  for (let turn = 0; turn < TURNS; turn++)
    turns.push({
      plain: await inLanes(lanes, EACH, () => bareVisit(bare.browser)),
      ours: await inLanes(lanes, EACH, async () => {
        await pool.visit(order);
      }),
    });
  const plain = median(turns.map((turn) => turn.plain));
  const ours = median(turns.map((turn) => turn.ours));
  const ratio = median(turns.map((turn) => turn.ours / turn.plain));
  console.log(
    `${lanes} at once          ${plain.toFixed(0).padStart(7)} ${ours.toFixed(0).padStart(9)} ${ratio.toFixed(2).padStart(7)}`,
  );
}
await bare.close();

/** Resident memory of all processes of the browser, in MB. */
function browserMemory(): number {
  const lines = execFileSync('ps', ['-eo', 'rss,comm']).toString().split('\n');
  const mine = lines.filter((line) => /chrom|headless/i.test(line));
  return mine.reduce((sum, line) => sum + Number(line.trim().split(/\s+/)[0]), 0) / 1_024;
}

console.log(`\nmemory of the browser over ${MEMORY_VISITS} visits`);
for (let done = 0; done <= MEMORY_VISITS; done += 50) {
  console.log(`after ${String(done).padStart(4)} visits ${browserMemory().toFixed(0).padStart(6)} MB`);
  if (done < MEMORY_VISITS)
    await inLanes(2, 50, async () => {
      await pool.visit(order);
    });
}
await pool.close();
server.close();

await measureWhy();
