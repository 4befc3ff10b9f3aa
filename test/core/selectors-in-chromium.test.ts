import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { insert, readAnchor } from '@pragmatica/core';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { htmlFiles } from '../support/real-pages.js';

const DEMO = fileURLToPath(new URL('../../packages/demo/pages', import.meta.url));
/** Folders of HTML with `:` between them: `REAL_PAGES=/usr/share/doc npm test -- test/core/selectors-in-chromium.test.ts`. */
const folders = [DEMO, ...(process.env['REAL_PAGES'] ?? '').split(':').filter(Boolean)];
const MAX_FILES = 400;

describe('selectors on real pages, held against a browser', function () {
  this.timeout(600_000);
  let browser: Browser;
  before(async () => {
    browser = await startBrowser();
  });
  after(() => browser.close());

  it('find the element that the browser finds', async () => {
    const context = await browser.newContext({ javaScriptEnabled: false, offline: true });
    const page = await context.newPage();
    const cdp = await context.newCDPSession(page);
    let found = 0;
    for (const file of folders.flatMap((folder) => htmlFiles([folder]).slice(0, MAX_FILES))) {
      const html = readFileSync(file, 'utf8').replace(/^\ufeff/, '');
      if (html.length > 500_000) continue;
      await page.setContent(html, { waitUntil: 'commit' });
      const { root } = await cdp.send('DOM.getDocument', { depth: 0 });
      for (const selector of await selectorsOf(page)) {
        const { page: bytes, outcomes } = insert(html, [
          { key: 'p', placement: readAnchor(selector, 'inside'), code: '<script data-here></script>' },
        ]);
        const { nodeId } = await cdp.send('DOM.querySelector', { nodeId: root.nodeId, selector });
        if (!outcomes[0]!.inserted) {
          if (outcomes[0]!.reason === 'no-anchor') expect(nodeId, `${selector} in ${file}`).to.equal(0);
          continue;
        }
        found++;
        const path = await pathOf(page, selector);
        const marked = await context.newPage();
        await marked.setContent(Buffer.from(bytes).toString(), { waitUntil: 'commit' });
        const there = await pathOf(marked, ':has(> script[data-here])');
        await marked.close();
        expect(there, `${selector} in ${file}`).to.equal(path);
      }
    }
    expect(found).to.be.greaterThan(20);
    await context.close();
  });
});

type Page = Awaited<ReturnType<Browser['newPage']>>;

/** Selectors of every kind for some elements of the page that is open. */
async function selectorsOf(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const selectors = new Set<string>();
    const all = [...document.body.querySelectorAll('*')].filter(({ closest }) => closest !== undefined);
    const step = Math.max(1, Math.floor(all.length / 12));
    for (let i = 0; i < all.length; i += step) {
      const element = all[i]!;
      if (element.closest('svg,math,table,pre,script,style,select')) continue;
      const name = element.localName;
      const parent = element.parentElement!;
      const siblings = [...parent.children];
      const alike = siblings.filter((one) => one.localName === name);
      selectors.add(`${parent.localName} > ${name}:nth-of-type(${alike.indexOf(element) + 1})`);
      selectors.add(`${parent.localName} ${name}:nth-child(${siblings.indexOf(element) + 1})`);
      for (const one of element.classList) selectors.add(`${name}.${CSS.escape(one)}`);
    }
    return [...selectors].slice(0, 16);
  });
}

/** Where the first element that fits stands: its position under each parent, scripts of ours not counted. */
async function pathOf(page: Page, selector: string): Promise<string> {
  return page.evaluate((wanted) => {
    const steps: number[] = [];
    for (let at = document.querySelector(wanted); at?.parentElement; at = at.parentElement)
      steps.unshift([...at.parentElement.children].filter((one) => !one.matches('[data-here]')).indexOf(at));
    return steps.join('.');
  }, selector);
}
