import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { anchorName, insert, readAnchor } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
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

  it('are written as the browser writes names', async () => {
    const names = fc.sample(fc.string({ unit: 'grapheme', maxLength: 5 }), { numRuns: 400, seed: 1 });
    const tricky = [
      '-',
      '--',
      '-1',
      '1',
      'a1',
      '\u007f',
      'a b',
      '#',
      'é',
      '_',
      '.x',
      '\\',
      '\u00a0',
      '\u2003x',
    ];
    const ascii = fc.sample(fc.string({ maxLength: 5 }), { numRuns: 200, seed: 1 });
    const all = [...names, ...ascii, ...tricky].filter((text) => text !== '' && !text.includes('\0'));
    const page = await browser.newPage();
    const written = all.map((anchor) => anchorName({ anchor, side: 'inside' }));
    const found = await page.evaluate(
      (pairs) =>
        pairs.map(([id, selector]) => {
          document.body.innerHTML = '<p></p>';
          document.querySelector('p')!.id = id!;
          return document.querySelector(selector!)?.id ?? null;
        }),
      all.map((id, index) => [id, written[index]!]),
    );
    expect(found).to.deep.equal(all);
    const escaped = await page.evaluate((texts) => texts.map((text) => `#${CSS.escape(text)}`), all);
    // Beyond ASCII we escape more than the browser would: it reads both.
    const isPlain = (_: string, index: number) => !/[^\0-\x7f]/.test(all[index]!);
    expect(written.filter(isPlain)).to.deep.equal(escaped.filter(isPlain));
    await page.close();
  });

  it('find the element that the browser finds', async () => {
    const context = await browser.newContext({ javaScriptEnabled: false, offline: true });
    const page = await context.newPage();
    let found = 0;
    for (const file of folders.flatMap((folder) => htmlFiles([folder]).slice(0, MAX_FILES))) {
      const html = readFileSync(file, 'utf8').replace(/^\ufeff/, '');
      if (html.length > 500_000) continue;
      await page.setContent(html, { waitUntil: 'commit' });
      const selectors = await selectorsOf(page);
      const parts = selectors.map((selector, i) => ({
        key: selector,
        placement: readAnchor(selector, 'inside'),
        code: `<script data-here="${i}"></script>`,
      }));
      const { page: bytes, outcomes } = insert(html, parts);
      const expected = await pathsOf(page, selectors);
      await page.setContent(Buffer.from(bytes).toString(), { waitUntil: 'commit' });
      const marks = selectors.map((_, i) => `:has(> script[data-here="${i}"])`);
      const there = await pathsOf(page, marks);
      outcomes.forEach((outcome, i) => {
        const words = `${selectors[i]} in ${file}`;
        if (outcome.inserted) expect(there[i], words).to.equal(expected[i]);
        else if (outcome.reason === 'no-anchor') expect(expected[i], words).to.equal('');
        if (outcome.inserted) found++;
      });
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
    const all = [...document.body.querySelectorAll('*')];
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

/** Where the first element that fits each stands: its position under each parent, scripts of ours not counted. */
async function pathsOf(page: Page, selectors: readonly string[]): Promise<string[]> {
  return page.evaluate(
    (wanted) =>
      wanted.map((selector) => {
        const steps: number[] = [];
        for (let at = document.querySelector(selector); at?.parentElement; at = at.parentElement)
          steps.unshift(
            [...at.parentElement.children].filter((one) => !one.matches('[data-here]')).indexOf(at),
          );
        return steps.join('.');
      }),
    [...selectors],
  );
}
