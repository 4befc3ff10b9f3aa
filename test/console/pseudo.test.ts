import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Browser, Page } from 'playwright-core';
import { allTexts } from '../support/all-texts.js';
import { openConsole, quiet, startBrowser } from '../support/browser.js';
import { askForApproval } from '../support/approvals.js';
import { pseudoTranslation } from '../support/pseudo.js';
import { startStage, type Stage } from '../support/stage.js';
import { survey } from '../support/surveys.js';
import { visitSite } from '../support/visits.js';

const SITE = '/sites/skerrywick';
const ROOMS = [
  '/',
  '/fields',
  '/account',
  '/members',
  '/recipes',
  '/recipes/tallymast-counter',
  '/recipes/parlanook-chat/apply',
  '/recipes/updates',
  `${SITE}/strip?path=%2Fbooking`,
  `${SITE}/settings/people`,
  `${SITE}/start`,
  `${SITE}/snippets`,
  `${SITE}/snippets/new`,
  `${SITE}/snippets/harbour-chat#reach`,
  `${SITE}/snippets/summer-offer#pages`,
  `${SITE}/findings`,
  `${SITE}/comments`,
  `${SITE}/survey`,
  `${SITE}/survey/coverage`,
  `${SITE}/survey/pages`,
  `${SITE}/survey/page?path=%2Fhistory`,
  `${SITE}/survey/sides`,
  `${SITE}/survey/history`,
  `${SITE}/checklist`,
  `${SITE}/delivery`,
  `${SITE}/delivery/policy`,
  `${SITE}/releases`,
  `${SITE}/check`,
  `${SITE}/check/browser`,
  `${SITE}/check/browser/1`,
  `${SITE}/check/browser/1/1`,
  `${SITE}/check/why?snippet=works-notice&path=%2F`,
  `${SITE}/check/weight`,
  `${SITE}/check/watch`,
  `${SITE}/settings`,
  `${SITE}/settings/hosts`,
  `${SITE}/settings/fields`,
  `${SITE}/settings/pages`,
  `${SITE}/settings/consent`,
  `${SITE}/settings/files`,
  `${SITE}/activity`,
  `${SITE}/approvals/1`,
  '/activity',
  '/backups',
  '/health',
  '/help',
  '/help/reach',
] as const;

/** Names, units and codes that are the same in every language, and what the browser's own tables say. */
const SAME_EVERYWHERE =
  /\b(?:[a-z]+-src|Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec|January|February|March|April|June|July|August|September|October|November|December|Monday|Tuesday|Wednesday|Thursday|Friday|Saturday|Sunday|and|live|staging|Pragmatica|JSON|JSONPath|HAR|CSP|IP|kB|KB|MB|ms|px|HTML|URL|Chromium|UTC|GMT|script|style|iframe|noscript|admin|set-up|meta|windows-\d+)\b/g;

describe('the console in another language', function () {
  this.timeout(300_000);
  let folder: string;
  let stage: Stage;
  let browser: Browser;
  /** What people have typed: it stays as it is. */
  let typed: RegExp;

  before(async () => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-language-'));
    const file = join(folder, 'pseudo.json');
    writeFileSync(file, JSON.stringify(pseudoTranslation(allTexts())));
    stage = await startStage({
      isWhole: true,
      hasWorker: true,
      inProcesses: true,
      settings: { PRAGMATICA_LANGUAGE: file },
    });
    browser = await startBrowser();
    await survey(stage, 'skerrywick');
    await visitSite(stage.client, 'skerrywick', { pages: ['/'], devices: ['desktop'] });
    await askForApproval(stage);
    typed = await typedTexts(stage);
  });
  after(async () => {
    await browser.close();
    await stage.close();
    rmSync(folder, { recursive: true, force: true });
  });

  for (const room of ROOMS)
    it(`says everything in it, and has room for it: ${room}`, async () => {
      const { context, page } = await openConsole(browser, stage);
      const found: Record<string, string[]> = {};
      const look = async (where: string): Promise<void> => {
        const said = await saidWords(page);
        const left = [...new Set(said.flatMap((text) => inEnglish(text, typed)))];
        const cut = await cutOff(page);
        if (left.length + cut.length > 0) found[where] = [...left, ...cut.map((text) => `cut off: ${text}`)];
      };
      await page.goto(room);
      await page.getByRole('heading', { level: 1 }).first().waitFor();
      await quiet(page);
      await look('desktop');
      // Three dots at the end of a button say that it asks something first.
      const asking = page.getByRole('button', { name: /…$/ });
      for (let index = 0, count = await asking.count(); index < count; index++) {
        const button = asking.nth(index);
        if (!(await button.isVisible()) || !(await button.isEnabled())) continue;
        const name = (await button.innerText()).trim();
        await button.click();
        const dialog = page.getByRole('dialog');
        if (!(await appears(dialog))) continue;
        await quiet(page);
        await look(`the window of ${name}`);
        await page.keyboard.press('Escape');
        await dialog.waitFor({ state: 'detached' });
      }
      await page.setViewportSize({ width: 390, height: 844 });
      await look('phone');
      await context.close();
      expect(found).to.deep.equal({});
    });
});

async function appears(dialog: ReturnType<Page['getByRole']>): Promise<boolean> {
  try {
    await dialog.waitFor({ timeout: 2_000 });
    return true;
  } catch {
    return false;
  }
}

/** Every string that the demo's people and recipes have written, the longest first. */
async function typedTexts({ client }: Stage): Promise<RegExp> {
  const strings = new Set<string>();
  const collect = (value: unknown): void => {
    // What a recipe says has places for what differs from site to site.
    if (typeof value === 'string') for (const piece of value.split(/@?\{\w+\}/)) strings.add(piece.trim());
    else if (typeof value === 'object' && value !== null) {
      for (const [name, inner] of Object.entries(value)) {
        // What the service says is not what somebody typed.
        if (!SAID.has(name)) collect(inner);
      }
    }
  };
  const { data: sites } = await client.call('listSites', { query: {} });
  for (const { key } of sites.items) {
    const params = { site: key };
    collect((await client.call('showSite', { params })).data);
    collect((await client.call('showDraft', { params })).data.snapshot);
    collect((await client.call('listReleases', { params, query: {} })).data);
    collect((await client.call('listPages', { params, query: {} })).data.paths);
    const { items: asked } = (await client.call('listApprovals', { params, query: {} })).data;
    collect(asked.map(({ message }) => message));
  }
  const params = { site: 'skerrywick', survey: 'latest' };
  collect((await client.call('listSurveyPages', { params, query: {} })).data.items.map(({ title }) => title));
  const { data: sightings } = await client.call('listSightings', { params, query: {} });
  // Code that is called by nothing but the name that it defines.
  collect(sightings.items.map(({ name }) => name).filter((name) => /^\w+$/.test(name)));
  collect((await client.call('listRecipes', { query: {} })).data);
  // The first is called so by the start of the service, whatever its language.
  collect((await client.call('listMembers', {})).data.items.map(({ name }) => name));
  // The name is kept as it was said where the token was made.
  collect((await client.call('listTokens', {})).data.items.map(({ name }) => name));
  const longestFirst = [...strings].filter((text) => text.length > 1).sort((a, b) => b.length - a.length);
  const escaped = longestFirst.map((text) => text.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&'));
  return new RegExp(`(?<!\\w)(?:${escaped.join('|')})(?!\\w)`, 'g');
}

const SAID = new Set(['detail', 'words', 'rights']);

/** Texts that are seen or read aloud, without code. */
async function saidWords(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const CODE =
      'code, pre, script, style, textarea, .font-mono, .cm-editor, svg, [translate="no"], body [lang]';
    const texts: string[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    while (walker.nextNode()) {
      const parent = walker.currentNode.parentElement!;
      if (parent.closest(CODE)) continue;
      texts.push(walker.currentNode.textContent ?? '');
    }
    for (const element of document.querySelectorAll<HTMLElement>('[aria-label], [title], [placeholder]'))
      for (const name of ['aria-label', 'title', 'placeholder']) {
        if (name !== 'aria-label' && element.matches(CODE)) continue;
        const text = element.getAttribute(name);
        if (text) texts.push(text);
      }
    return texts;
  });
}

/** Words of two letters and more that are written in English letters, and that nobody has typed. */
function inEnglish(text: string, typed: RegExp): string[] {
  const rest = withoutNames(withoutNames(text).replace(typed, ' '))
    .replace(QUOTED, ' ')
    .replace(SAME_EVERYWHERE, ' ');
  const words = rest.split(/[^\p{L}]+/u).filter((word) => /^[a-z]{2,}$/i.test(word));
  return words.length === 0 ? [] : [text.trim().slice(0, 400)];
}

/** Without addresses, paths, files, time zones, and what stands in braces or angle brackets. */
function withoutNames(text: string): string {
  return text
    .split(/\s+/)
    .filter((token) => !/^[(“]?(?:https?:|[/#@<{]|--)/.test(token) && !/\w[./]\w/.test(token))
    .join(' ');
}

const QUOTED = /“[^“”]*”|'[^']*'/g;

/** Controls whose words do not fit into them, and whatever makes the page wider than the window. */
async function cutOff(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const found: string[] = [];
    const root = document.documentElement;
    // The last element that sticks out is the one inside all others that do.
    const out = [...document.querySelectorAll('main *')].filter(
      (element) => element.getBoundingClientRect().right > root.clientWidth + 1,
    );
    if (root.scrollWidth > root.clientWidth)
      found.push(`the page is ${root.scrollWidth} px wide: ${String(out.at(-1)?.outerHTML.slice(0, 200))}`);
    for (const element of document.querySelectorAll<HTMLElement>(
      'button, a, th, h1, h2, label, summary, legend',
    )) {
      if (element.closest('.sr-only, [hidden]') || element.clientWidth === 0) continue;
      const style = getComputedStyle(element);
      if (style.textOverflow === 'ellipsis' || element.closest('.truncate, .line-clamp-2, .line-clamp-3'))
        continue;
      if (style.display !== 'inline' && element.scrollWidth > element.clientWidth + 1)
        found.push(element.innerText.slice(0, 80));
    }
    return found;
  });
}
