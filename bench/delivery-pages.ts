import { deliveryOf } from '@pragmatica/core';
import { WAY_HOSTS } from '@pragmatica/demo';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../test/support/browser.js';
import { startStage } from '../test/support/stage.js';
import { startStageWays } from '../test/support/ways.js';

/** What each way adds to a page of the demo: bytes, requests and time to `load` beside the page as its own server sends it. */

const ROUNDS = 15;
const PATH = '/fares';

interface Figures {
  readonly bytes: number;
  readonly requests: number;
  readonly ms: number;
}

/** One visit by a browser that has nothing kept. What providers load is not ours, and stays away. */
async function visit(browser: Browser, address: string, providerPort: number): Promise<Figures> {
  const context = await browser.newContext();
  await context.route(
    (url) => url.port === String(providerPort),
    (route) => route.abort(),
  );
  const page = await context.newPage();
  const sizes: Promise<number>[] = [];
  page.on('requestfinished', (request) => {
    if (!/favicon/.test(request.url()))
      sizes.push(request.sizes().then(({ responseBodySize }) => responseBodySize));
  });
  await page.goto(address, { waitUntil: 'load' });
  const ms = await page.evaluate(
    () => performance.timing.loadEventStart - performance.timing.navigationStart,
  );
  await page.waitForLoadState('networkidle');
  const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  await context.close();
  return { bytes, requests: sizes.length, ms };
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Prints a row for each way, medians of visits in turns. */
async function comparePages(): Promise<void> {
  const stage = await startStage({ isWhole: true });
  const browser = await startBrowser();
  const { sitePort, providerPort } = stage;
  const hosts = await startStageWays(stage);
  const ways = [
    ['the page alone', `http://origin.skerrywick.localhost:${sitePort}`],
    ...WAY_HOSTS.map(({ delivery }) => [deliveryOf(delivery).name, hosts.addressOf(delivery)] as const),
  ] as const;
  const found = new Map<string, Figures[]>(ways.map(([name]) => [name, []]));
  try {
    for (let round = 0; round < ROUNDS; round++)
      for (const [name, base] of ways) found.get(name)!.push(await visit(browser, base + PATH, providerPort));
  } finally {
    await browser.close();
    await hosts.close();
    await stage.close();
  }
  const of = (name: string): Figures => {
    const all = found.get(name)!;
    return {
      bytes: median(all.map(({ bytes }) => bytes)),
      requests: median(all.map(({ requests }) => requests)),
      ms: median(all.map(({ ms }) => ms)),
    };
  };
  const alone = of('the page alone');
  console.log(
    `\n${PATH} of the demo, nothing kept by the browser, without what providers load; ${ROUNDS} visits each\n`,
  );
  console.log(`${''.padEnd(28)} ${'bytes'.padStart(8)} ${'requests'.padStart(9)} ${'load, ms'.padStart(9)}`);
  console.log(
    `${'the page alone'.padEnd(28)} ${String(alone.bytes).padStart(8)} ${String(alone.requests).padStart(9)} ${alone.ms.toFixed(0).padStart(9)}`,
  );
  for (const [name] of ways.slice(1)) {
    const { bytes, requests, ms } = of(name);
    const more = (value: number): string => `${value >= 0 ? '+' : ''}${value.toFixed(0)}`;
    console.log(
      `${name.padEnd(28)} ${more(bytes - alone.bytes).padStart(8)} ${more(requests - alone.requests).padStart(9)} ${more(ms - alone.ms).padStart(9)}`,
    );
  }
}

await comparePages();
