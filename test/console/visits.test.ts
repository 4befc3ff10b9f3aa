import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser } from '../support/browser.js';
import { startStage, type Stage } from '../support/stage.js';

describe('visits in the console', function () {
  this.timeout(120_000);
  let stage: Stage;
  let browser: Browser;

  before(async () => {
    [stage, browser] = await Promise.all([startStage({ hasWorker: true }), startBrowser()]);
  });

  after(async () => {
    await browser.close();
    await stage.close();
  });

  it('say what they are for, are watched while they are made, and show what they found', async () => {
    const { page, context, problems } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/check');
    await page.getByRole('link', { name: 'In a real browser' }).click();
    await page.getByText('See it work as a new visitor does').waitFor();
    await page.getByRole('button', { name: 'Visit the pages' }).click();
    await page.getByText(/\d of \d+ visits/).waitFor();
    await page.getByText(/\d visits by Chromium/).waitFor({ timeout: 90_000 });
    const table = page.getByRole('table').first();
    const row = table.getByRole('row').filter({ hasText: 'Visit counter' });
    expect(await row.getByRole('img', { name: 'reached', exact: true }).count()).to.equal(4);
    expect(await row.getByRole('img', { name: 'does not apply' }).count()).to.equal(1);
    await page
      .getByText(/covers .* by .* pixels/)
      .first()
      .waitFor();
    await page.getByText('No answer yet').waitFor();
    expect(problems).to.deep.equal([]);
    await context.close();
  });

  it('show one visit: who came, what was seen, and each request with its owner', async () => {
    const { page, context, problems } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/check/browser');
    await page.getByRole('link', { name: 'A new visitor who does nothing (desktop)' }).first().click();
    await page.getByRole('img', { name: 'What the visitor saw' }).waitFor();
    const drawn = page.locator('main svg text');
    expect(await drawn.allInnerTexts().then((texts) => texts.length)).to.be.greaterThan(0);
    const requests = page.locator('ol > li').filter({ hasText: 'count.js' });
    expect(await requests.first().innerText()).to.include('Visit counter');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as HAR' }).click(),
    ]);
    expect(download.suggestedFilename()).to.match(/^visit-\d+-\d+\.har$/);
    expect(problems).to.deep.equal([]);
    await context.close();
  });

  it('answer why from a snippet’s own page, step by step', async () => {
    const { page, context, problems } = await openConsole(browser, stage);
    await page.goto('/sites/skerrywick/snippets/newsletter-form');
    await page.getByRole('link', { name: 'Why doesn’t it show?' }).click();
    const answer = page.getByRole('region', { name: 'Answer' });
    await answer.getByRole('heading', { name: /“Newsletter form” works for a new visitor/ }).waitFor();
    expect(await answer.getByRole('img', { name: 'yes' }).count()).to.equal(9);
    await page.getByLabel('What doesn’t show?').selectOption({ label: 'Works notice' });
    await page.getByRole('button', { name: 'Find out' }).click();
    await answer.getByRole('heading', { name: /switched off/ }).waitFor();
    await answer.getByText('Switch it on, and publish.').waitFor();
    await page.getByLabel('What doesn’t show?').selectOption('');
    await page.getByRole('button', { name: 'Find out' }).click();
    await page.getByRole('link', { name: 'See the visits' }).waitFor({ timeout: 60_000 });
    expect(problems).to.deep.equal([]);
    await context.close();
  });

  it('are as good on a phone', async () => {
    const { page, context } = await openConsole(browser, stage, { width: 390, height: 844, theme: 'dark' });
    for (const path of ['browser', 'browser/1/1', 'why']) {
      await page.goto(`/sites/skerrywick/check/${path}`);
      await page.getByRole('heading', { level: 1 }).waitFor();
      const width = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(width, path).to.be.at.most(390);
    }
    await context.close();
  });
});
