import { happensBefore, type ExecutionPhase } from '@pragmatica/core';
import { expect } from 'chai';
import type { Browser, Page } from 'playwright-core';
import { startBrowser } from '../support/browser.js';

/** How code of each moment is written, and how long its file takes to come. */
const WRITTEN: Readonly<Record<ExecutionPhase, readonly ((name: string, wait: number) => string)[]>> = {
  parse: [
    (name) => `<script>note('${name}')</script>`,
    (name, wait) => `<script src="/${name}-${wait}.js"></script>`,
  ],
  deferred: [
    (name, wait) => `<script defer src="/${name}-${wait}.js"></script>`,
    (name) => `<script type="module">note('${name}')</script>`,
  ],
  async: [(name, wait) => `<script async src="/${name}-${wait}.js"></script>`],
  later: [(name) => `<script>addEventListener('load', function () { note('${name}') })</script>`],
};

const MOMENTS = Object.keys(WRITTEN) as ExecutionPhase[];
const WAITS_MS = [0, 60];

describe('the running order that is computed, held against a browser', function () {
  this.timeout(180_000);
  let browser: Browser;
  let page: Page;
  before(async () => {
    browser = await startBrowser();
    page = await browser.newPage();
    await page.route('http://order.test/**', async (route) => {
      const { pathname } = new URL(route.request().url());
      const script = /^\/(\w)-(\d+)\.js$/.exec(pathname);
      if (!script) {
        await route.fulfill({ contentType: 'text/html', body: current });
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, Number(script[2])));
      await route.fulfill({ contentType: 'text/javascript', body: `note('${script[1]!}')` });
    });
  });
  after(() => browser.close());

  let current = '';

  async function order(first: string, second: string): Promise<string> {
    current = `<!doctype html><html><head><script>var seen = []; function note(name) { seen.push(name) }</script>${first}<p>between</p>${second}</head><body><p>text</p></body></html>`;
    await page.goto('http://order.test/');
    await page.waitForFunction(() => (window as unknown as { seen: string[] }).seen.length === 2);
    return page.evaluate(() => (window as unknown as { seen: string[] }).seen.join(''));
  }

  for (const a of MOMENTS)
    for (const b of MOMENTS)
      it(`${a}, then ${b} in the page`, async () => {
        const computed = happensBefore(
          { when: a, position: 0, placement: 'head-end' },
          { when: b, position: 1, placement: 'head-end' },
        );
        const seen = new Set<string>();
        for (const writeA of WRITTEN[a])
          for (const writeB of WRITTEN[b])
            for (const [waitA, waitB] of [WAITS_MS, [...WAITS_MS].reverse()])
              seen.add(await order(writeA('a', waitA!), writeB('b', waitB!)));
        if (computed === 'always') expect([...seen]).to.deep.equal(['ab']);
        else if (computed === 'never') expect([...seen]).to.deep.equal(['ba']);
        else expect(seen.size).to.be.at.least(1);
      });

  it('is really open where it is said to be', async () => {
    const [write] = WRITTEN.async;
    expect(await order(write!('a', 0), write!('b', 60))).to.equal('ab');
    expect(await order(write!('a', 60), write!('b', 0))).to.equal('ba');
  });
});
