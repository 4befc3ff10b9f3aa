import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import type axeCore from 'axe-core';
import pg from 'pg';
import type { Browser, Page } from 'playwright-core';
import { openConsole, quiet, replaceCode, unfold } from '../support/browser.js';
import { askForApproval } from '../support/approvals.js';
import { useStageAndBrowser } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';
import { survey } from '../support/surveys.js';
import { visitSite } from '../support/visits.js';

/** Evaluated over the debugging protocol, which the page's content policy does not reach. */
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface View {
  readonly name: string;
  readonly path: string;
  readonly heading: RegExp;
  readonly isSignedOut?: boolean;
  act?(page: Page): Promise<void>;
}

const VIEWS: readonly View[] = [
  { name: 'the sign-in', path: '/', heading: /Sign in/, isSignedOut: true },
  {
    name: 'a sign-in elsewhere that was lost',
    path: '/sign-in/answer',
    heading: /Begin in this browser/,
    isSignedOut: true,
  },
  { name: 'the sites', path: '/', heading: /Sites/ },
  { name: 'the page strip', path: '/sites/skerrywick/strip?path=%2Fbooking', heading: /What a visitor of/ },
  {
    name: 'the question before publishing',
    path: '/sites/skerrywick/strip?path=%2F',
    heading: /What a visitor of/,
    async act(page) {
      await page.getByRole('button', { name: 'Publish…' }).click();
      await page.getByRole('dialog').waitFor();
    },
  },
  {
    name: 'adding a snippet',
    path: '/sites/skerrywick/snippets/new',
    heading: /Add a snippet/,
    async act(page) {
      await replaceCode(page, '<script>"text"</script><!-- c --><div>');
      await page.getByRole('radio', { name: 'At an element' }).click();
      await unfold(page, 'On which pages?');
      await page.getByRole('radio', { name: 'Only some pages' }).click();
    },
  },
  { name: 'the fields of all sites', path: '/fields', heading: /Fields/ },
  { name: 'the members', path: '/members', heading: /Members/ },
  { name: 'the account', path: '/account', heading: /Your account/ },
  {
    name: 'a reach with everything open',
    path: '/sites/skerrywick/snippets/harbour-chat',
    heading: /Harbour chat/,
    async act(page) {
      await unfold(page, 'When and for whom?');
      await page.getByText('Delay or limit').click();
      await page.getByRole('button', { name: 'Add a day with different hours' }).click();
    },
  },
  { name: 'a snippet', path: '/sites/skerrywick/snippets/harbour-chat', heading: /Harbour chat/ },
  {
    name: 'the findings',
    path: '/sites/skerrywick/findings',
    heading: /Findings/,
    async act(page) {
      await page.getByText('is not registered with Parlanook').first().waitFor();
    },
  },
  {
    name: 'comments',
    path: '/sites/skerrywick/snippets/harbour-chat#comments',
    heading: /Harbour chat/,
    async act(page) {
      await page.getByLabel('Write a comment').fill('Ask @admin');
      await page.getByRole('button', { name: 'Comment', exact: true }).click();
      await page.getByRole('strong').filter({ hasText: '@admin' }).first().waitFor();
      await page.goto('/sites/skerrywick/comments');
      await page.getByRole('button', { name: 'Done: comment of Administrator' }).first().waitFor();
    },
  },
  { name: 'delivery', path: '/sites/skerrywick/delivery', heading: /How pages get their code/ },
  { name: 'a content policy', path: '/sites/skerrywick/delivery/policy', heading: /Content policy/ },
  {
    name: 'a first look',
    path: '/sites/skerrywick/start',
    heading: /A first look at/,
    async act(page) {
      await page.getByText('pages were read').waitFor();
      const finder = page.getByRole('region', { name: 'Which way suits this site?' });
      await finder.getByRole('button', { name: 'Yes' }).click();
      await finder.getByText('Use the one line').waitFor();
    },
  },
  { name: 'a link that is over', path: '/handover', heading: /no longer works/, isSignedOut: true },
  { name: 'the releases', path: '/sites/skerrywick/releases', heading: /Releases/ },
  {
    name: 'a check of the live pages',
    path: '/sites/skerrywick/check',
    heading: /Check the live pages/,
    async act(page) {
      await page.getByRole('button', { name: 'Check the live pages' }).click();
      await page.getByText('Visit counter').waitFor();
      await page.getByRole('button', { name: 'Check again' }).waitFor();
    },
  },
  {
    name: 'what visits found',
    path: '/sites/skerrywick/check/browser',
    heading: /In a real browser/,
    async act(page) {
      await page.getByRole('heading', { name: 'How far each snippet got' }).waitFor();
    },
  },
  {
    name: 'a visit',
    path: '/sites/skerrywick/check/browser/1/1',
    heading: /A new visitor who does nothing/,
    async act(page) {
      await page.getByRole('img', { name: 'What the visitor saw' }).waitFor();
    },
  },
  {
    name: 'what snippets cost, before anything was weighed',
    path: '/sites/skerrywick/check/weight',
    heading: /What do your snippets cost/,
    async act(page) {
      await page.getByText('Nothing has been weighed yet').waitFor();
    },
  },
  {
    name: 'an answer to why',
    path: '/sites/skerrywick/check/why?snippet=works-notice&path=%2F',
    heading: /Why doesn’t it show/,
    async act(page) {
      await page.getByText('What to do').waitFor();
    },
  },
  {
    name: 'how snippets stood over time',
    path: '/sites/skerrywick/check/watch',
    heading: /Over time/,
    async act(page) {
      await page.getByText('After each round of visits').waitFor();
      await page.getByText('Who gets notices').waitFor();
    },
  },
  {
    name: 'the list of snippets',
    path: '/sites/skerrywick/snippets',
    heading: /Snippets/,
    async act(page) {
      await page.getByLabel('Select Visit counter').check();
      await page.getByText('One snippet selected').waitFor();
    },
  },
  {
    name: 'what is in the pages',
    path: '/sites/skerrywick/survey',
    heading: /The real site/,
    async act(page) {
      await page.getByRole('button', { name: /Tallymast visit counter/ }).click();
      await page.locator('mark').waitFor();
    },
  },
  {
    name: 'coverage',
    path: '/sites/skerrywick/survey/coverage',
    heading: /The real site/,
    async act(page) {
      await page.getByRole('button', { name: /^\/news/ }).click();
      await page.getByText('/news/winter-works').waitFor();
    },
  },
  {
    name: 'the pages of the site',
    path: '/sites/skerrywick/survey/pages',
    heading: /The real site/,
    async act(page) {
      await page.getByText('/islands/hallow').waitFor();
    },
  },
  {
    name: 'a page of the site',
    path: '/sites/skerrywick/survey/page?path=%2Fhistory',
    heading: /The real site/,
    async act(page) {
      await page.getByText('In document order').waitFor();
    },
  },
  { name: 'the recipes', path: '/recipes', heading: /Recipes/ },
  { name: 'a recipe', path: '/recipes/tallymast-counter', heading: /Tallymast counter/ },
  {
    name: 'installing a recipe on several sites',
    path: '/recipes/parlanook-chat/apply',
    heading: /Install “Parlanook chat”/,
    async act(page) {
      await page.getByRole('button', { name: 'All without it' }).click();
      await page.getByLabel('Room at Parlanook, Quay Kitchen').fill('not one');
      await page.getByText('Use only letters').waitFor();
    },
  },
  {
    name: 'the installs that are behind',
    path: '/recipes/updates',
    heading: /Outdated snippets/,
    async act(page) {
      await page.getByRole('button', { name: 'Update all 5' }).waitFor();
    },
  },
  {
    name: 'making a recipe',
    path: '/sites/skerrywick/snippets/summer-offer',
    heading: /Summer offer/,
    async act(page) {
      await page.getByRole('button', { name: 'Create a recipe…' }).click();
      await page.getByLabel('Name of the recipe').waitFor();
    },
  },
  {
    name: 'the checklist',
    path: '/sites/skerrywick/checklist',
    heading: /Checklist/,
    async act(page) {
      await page.getByText('11 of 12 done.').waitFor();
    },
  },
  { name: 'the settings: name and time zone', path: '/sites/skerrywick/settings', heading: /Settings/ },
  { name: 'the settings: hosts', path: '/sites/skerrywick/settings/hosts', heading: /Settings/ },
  { name: 'the settings: fields', path: '/sites/skerrywick/settings/fields', heading: /Settings/ },
  { name: 'the settings: page groups', path: '/sites/skerrywick/settings/pages', heading: /Settings/ },
  { name: 'the settings: consent', path: '/sites/skerrywick/settings/consent', heading: /Settings/ },
  { name: 'the settings: files', path: '/sites/skerrywick/settings/files', heading: /Settings/ },
  { name: 'the help', path: '/help', heading: /Help/ },
  { name: 'a page of the help', path: '/help/checks', heading: /Checks/ },
  { name: 'the activity', path: '/sites/skerrywick/activity', heading: /Activity/ },
  { name: 'a request for approval', path: '/sites/skerrywick/approvals/1', heading: /Approval/ },
  { name: 'the activity of the installation', path: '/activity', heading: /Activity/ },
  { name: 'the backups', path: '/backups', heading: /Backups/ },
  { name: 'the health of the installation', path: '/health', heading: /Health/ },
];

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
/** In the other theme nothing else is different. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

describe('the console for everybody', function () {
  this.timeout(180_000);
  const started = useStageAndBrowser({ isWhole: true, hasWorker: true });
  let stage: Stage;
  let browser: Browser;
  before(async () => {
    ({ stage, browser } = started());
    await survey(stage, 'skerrywick');
    await visitSite(stage.client, 'skerrywick', { pages: ['/'], devices: ['desktop'] });
    await askForApproval(stage);
    // Every mark that the history of a snippet can have.
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    await database.query(
      `insert into standing (site_id, host, round, at, snippet, name, state, losses, message)
         select s.id, 'skerrywick.localhost', 1, now(), m.state, m.state, m.state, '[]', 'On /: it is so.'
         from site s, (values ('well'), ('lost'), ('waiting')) as m(state) where s.key = 'skerrywick'`,
    );
    await database.end();
  });

  /**
   * What stands in somebody's way on the page as it is now.
   *
   * @param runOnly - tags or names of rules
   * @param least - rules that must have found something to look at
   */
  async function problemsOf(page: Page, runOnly: string[], least: number): Promise<string[]> {
    const found = await page.evaluate(
      (only) => (globalThis as unknown as { axe: typeof axeCore }).axe.run(document, { runOnly: only }),
      runOnly,
    );
    expect(found.passes.length).to.be.at.least(least);
    return found.violations.flatMap((rule) =>
      rule.nodes.map((node) => `${rule.id}: ${node.html} — ${node.failureSummary}`),
    );
  }

  for (const view of VIEWS)
    it(`has nothing in the way in ${view.name}, light or dark (WCAG 2.2 AA, as far as a program can tell)`, async () => {
      const { context, page } = await openConsole(
        browser,
        stage,
        { width: 1280, height: 900, theme: 'light' },
        !view.isSignedOut,
      );
      // Colours that are on their way are none that anybody reads.
      await page.emulateMedia({ reducedMotion: 'reduce' });
      await page.goto(view.path);
      await page.getByRole('heading', { level: 1, name: view.heading }).waitFor();
      await quiet(page);
      await view.act?.(page);
      // In a window as tall as the page, what sticks to its edges covers nothing that could be scrolled to.
      const height = await page.evaluate(() => document.documentElement.scrollHeight);
      await page.setViewportSize({ width: 1280, height: Math.max(height, 900) });
      await page.evaluate(AXE);
      const light = await problemsOf(page, WCAG, 6);
      await page.emulateMedia({ colorScheme: 'dark' });
      await page.waitForFunction(() => document.documentElement.dataset['theme'] === 'dark');
      const dark = await problemsOf(page, COLOURS, 1);
      await context.close();
      expect({ light, dark }).to.deep.equal({ light: [], dark: [] });
    });
});
