import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import fc from 'fast-check';
import { normalForm } from '@pragmatica/core';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { propertyRuns } from '../support/property-runs.js';

/** Style sheets that people wrote: the demo site's, and those that come with packages of the project. */
const SHEETS = [
  'packages/demo/assets/site.css',
  'node_modules/mocha/mocha.css',
  'node_modules/tailwindcss/preflight.css',
  'node_modules/tailwindcss/theme.css',
  'node_modules/@fontsource-variable/hanken-grotesk/index.css',
].map((file) => readFileSync(new URL(`../../${file}`, import.meta.url), 'utf8'));

/** Small changes, of which some mean the same and some do not. */
const PIECES = [
  '',
  ' ',
  '  ',
  '\n',
  '/**/',
  ' /* x */ ',
  ';',
  ',',
  ':',
  '"',
  "'",
  '>',
  '+',
  '{',
  '}',
  '(',
  ')',
  'a',
  '.',
  '#',
  '!',
  '1',
];

interface Edit {
  /** Where, as a share of the sheet. */
  readonly at: number;
  readonly removed: number;
  readonly piece: string;
}

const edit: fc.Arbitrary<Edit> = fc.record({
  at: fc.double({ min: 0, max: 1, noNaN: true }),
  removed: fc.constantFrom(0, 0, 1, 1, 2),
  piece: fc.constantFrom(...PIECES),
});

/** Rules of a sheet, so that a pair is small enough to be looked at. */
function stretch(sheet: string, from: number): string {
  const rules = sheet.split(/(?<=\}\n)/);
  const start = Math.floor(from * Math.max(1, rules.length - 4));
  return rules.slice(start, start + 4).join('');
}

function edited(css: string, { at, removed, piece }: Edit): string {
  const place = Math.floor(at * css.length);
  return css.slice(0, place) + piece + css.slice(place + removed);
}

describe('style sheets that count as the same', function () {
  this.timeout(180_000);
  let browser: Browser;
  before(async () => (browser = await startBrowser()));
  after(() => browser.close());

  it('are the same to a browser, whatever was changed in them', async () => {
    const pairs: [string, string][] = [];
    let tried = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...SHEETS),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.array(edit, { minLength: 1, maxLength: 2 }),
        (sheet, from, edits) => {
          const css = stretch(sheet, from);
          const other = edits.reduce(edited, css);
          tried++;
          if (other !== css && form(other) === form(css)) pairs.push([css, other]);
        },
      ),
      propertyRuns(1_000),
    );
    // The property says something only where some pairs are the same and some are not.
    expect(pairs.length).to.be.within(30, tried - 100);
    const page = await browser.newPage();
    const different = await page.evaluate(
      (all) =>
        all.filter((pair) => {
          const [one, other] = pair.map((css) => {
            const sheet = new CSSStyleSheet();
            sheet.replaceSync(css.replaceAll(/@import[^;]*;/g, ''));
            return Array.from(sheet.cssRules, (rule) => rule.cssText).join('\n');
          });
          return one !== other;
        }),
      pairs,
    );
    await page.close();
    expect(different.slice(0, 3)).to.deep.equal([]);
  });
});

function form(css: string): string {
  return normalForm(`<style>${css}</style>`);
}
