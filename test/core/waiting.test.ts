import {
  WAITING_SCRIPT,
  containmentProblem,
  parseWeekly,
  uncontainedParts,
  waitingCode,
} from '@pragmatica/core';
import { expect } from 'chai';
import { createServer } from 'node:http';
import type { Browser, Page } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { part, set, snippet } from '../support/sets.js';
import { listen } from '../support/stage.js';

const NOTE = '<script>document.title += "+"</script><p id="shown">hello</p>';

describe('parts that wait in the browser', function () {
  let browser: Browser;
  let address: string;
  let close: () => Promise<void>;
  /** What the next page holds. */
  let body = '';
  before(async () => {
    browser = await startBrowser();
    const server = createServer((request, response) => {
      if (request.url === '/slow.js') {
        setTimeout(() => response.end('window.slow = 1; log("file");'), 100);
        return;
      }
      response.setHeader('content-type', 'text/html');
      response.end(`<!doctype html><title>t</title><body style="margin:0">${body}`);
    });
    const started = await listen(server);
    address = `http://127.0.0.1:${started.port}/`;
    close = async () => {
      await browser.close();
      server.close();
    };
  });
  after(() => close());

  const open = async (code: string, at?: { page: Page }): Promise<Page> => {
    body = code;
    const page =
      at?.page ?? (await (await browser.newContext({ viewport: { width: 800, height: 600 } })).newPage());
    await page.goto(address);
    return page;
  };
  const shown = (page: Page): Promise<number> => page.locator('#shown').count();
  const wait = (limits: Parameters<typeof waitingCode>[2], code = NOTE): string =>
    waitingCode(code, 'note', limits);

  it('are wrapped in little more than 1 KB, and only where there is something to wait for', () => {
    const wrapped = wait({
      visitor: {
        who: 'first',
        afterSeconds: 5,
        afterScroll: 50,
        onLeaving: true,
        everyDays: 7,
        minWidth: 400,
        maxWidth: 900,
      },
    });
    expect(Buffer.byteLength(WAITING_SCRIPT)).to.be.lessThan(1100);
    expect(Buffer.byteLength(wrapped) - NOTE.length).to.be.lessThan(1200);
    expect(wait({ devices: ['phone'], visitor: {} })).to.equal(NOTE);
    expect(wait(undefined)).to.equal(NOTE);
  });

  it('change nothing around them, whatever they hold', () => {
    const visitor = { afterSeconds: 1 };
    expect(containmentProblem(wait({ visitor }), 'body-end')).to.equal(undefined);
    const loose = snippet('a', {
      parts: [part('head-end', 0, '<meta name="a"></template><p>b')],
      limits: { visitor },
    });
    expect(uncontainedParts(set(loose))).to.have.length(1);
    // By itself it harms nothing: only around what waits is there a template that it could close.
    const early = { parts: [part('body-end', 0, '</template><script>go()</script>')] };
    expect(uncontainedParts(set(snippet('a', early)))).to.deep.equal([]);
    expect(uncontainedParts(set(snippet('a', { ...early, limits: { visitor } })))).to.have.length(1);
    expect(parseWeekly('mon 09-10')).to.have.property('mon');
  });

  it('come after their time', async () => {
    const page = await open(wait({ visitor: { afterSeconds: 0.4 } }));
    expect(await shown(page)).to.equal(0);
    await page.locator('#shown').waitFor();
    expect(await page.title()).to.equal('t+');
    await page.context().close();
  });

  it('come once so much of the page was scrolled, at once where it all fits', async () => {
    const long = `${wait({ visitor: { afterScroll: 60 } })}<div style="height:3000px"></div>`;
    const page = await open(long);
    await page.waitForTimeout(50);
    expect(await shown(page)).to.equal(0);
    await page.evaluate(() => scrollTo(0, 1000));
    await page.waitForTimeout(50);
    expect(await shown(page), 'not yet').to.equal(0);
    await page.evaluate(() => scrollTo(0, 1600));
    await page.locator('#shown').waitFor();
    const short = await open(wait({ visitor: { afterScroll: 60 } }), { page });
    await short.locator('#shown').waitFor();
    await page.context().close();
  });

  it('come when the pointer leaves towards the top', async () => {
    const page = await open(wait({ visitor: { onLeaving: true } }));
    await page.evaluate(() =>
      document.dispatchEvent(new MouseEvent('mouseout', { clientY: 300, bubbles: true })),
    );
    expect(await shown(page)).to.equal(0);
    await page.evaluate(() =>
      document.dispatchEvent(new MouseEvent('mouseout', { clientY: 0, bubbles: true })),
    );
    expect(await shown(page)).to.equal(1);
    await page.context().close();
  });

  it('come to a first visit or a later one, by half an hour between them', async () => {
    const first = wait({ visitor: { who: 'first' } });
    const returning = wait({ visitor: { who: 'returning' } });
    const page = await open(first);
    expect(await shown(page)).to.equal(1);
    expect(await shown(await open(returning, { page })), 'still the first').to.equal(0);
    await page.evaluate(() => {
      const [visits, last] = JSON.parse(localStorage['pragmatica-visit'] as string) as [number, number];
      localStorage['pragmatica-visit'] = JSON.stringify([visits, last - 31 * 60_000]);
    });
    expect(await shown(await open(returning, { page }))).to.equal(1);
    expect(await shown(await open(first, { page }))).to.equal(0);
    await page.context().close();
  });

  it('come at most once in their days, all parts of a snippet together', async () => {
    const limits = { visitor: { everyDays: 2 } };
    const two = wait(limits) + wait(limits, '<script>document.title += "second"</script>');
    const page = await open(two);
    expect(await page.title()).to.equal('t+second');
    expect(await shown(await open(two, { page }))).to.equal(0);
    await page.evaluate(() => {
      localStorage['pragmatica-note'] = String(Date.now() - 49 * 3_600_000);
    });
    expect(await shown(await open(two, { page }))).to.equal(1);
    await page.context().close();
  });

  it('come only into windows of their width', async () => {
    const page = await open(wait({ visitor: { minWidth: 900 } }));
    expect(await shown(page)).to.equal(0);
    expect(await shown(await open(wait({ visitor: { maxWidth: 900 } }), { page }))).to.equal(1);
    await page.context().close();
  });

  it('run their scripts one after the other, a file waited for', async () => {
    const code = `<script src="/slow.js"></script><script>log('after ' + window.slow)</script><script type="application/json" src="/x">{}</script><script>log('last')</script>`;
    const page = await open(
      `<script>window.lines = []; function log(text) { lines.push(text) }</script>${wait({ visitor: { afterSeconds: 0.01 } }, code)}`,
    );
    await page.waitForFunction(() => (window as unknown as { lines: string[] }).lines.length === 3);
    const lines = await page.evaluate(() => (window as unknown as { lines: string[] }).lines);
    expect(lines).to.deep.equal(['file', 'after 1', 'last']);
    await page.context().close();
  });
});
