import { expect } from 'chai';
import type { BrowserContext, Page } from 'playwright-core';
import { openConsole, DESKTOP } from '../support/browser.js';
import { useStageAndBrowser } from '../support/hooks.js';
import { ADMIN } from '../support/stage.js';

describe('the language of the console', function () {
  this.timeout(120_000);
  const started = useStageAndBrowser({ hasDemo: false });
  const opened: BrowserContext[] = [];
  afterEach(async () => {
    for (const context of opened.splice(0)) await context.close();
  });

  /** A browser that nobody has used, and where nobody is signed in. */
  async function newBrowser(): Promise<Page> {
    const { browser, stage } = started();
    const { context, page } = await openConsole(browser, stage, DESKTOP, false);
    opened.push(context);
    return page;
  }

  const languageOf = async (page: Page): Promise<string | null> => page.locator('html').getAttribute('lang');

  it('is set before anything that says texts is loaded', async () => {
    const { server } = started().stage;
    const html = await (await fetch(server)).text();
    const entry = /<script type="module"[^>]* src="([^"]+)"/.exec(html)![1]!;
    const script = await (await fetch(new URL(entry, server))).text();
    const imported = [...script.matchAll(/(?:from|import)\s*"\.\/([\w-]+?)-[\w-]{8}\.js"/g)].map(
      ([, name]) => name,
    );
    // Whatever else stands there was put together with what says texts: see the groups in vite.config.ts.
    expect(new Set(imported)).to.deep.equal(new Set(['first']));
  });

  it('is chosen before anybody signs in, stays in that browser, and is the member’s once they say so', async () => {
    const page = await newBrowser();
    await page.goto('/');
    expect(await languageOf(page)).to.equal('en');
    await page.getByRole('navigation', { name: 'Language' }).getByRole('button', { name: 'Deutsch' }).click();
    await page.getByRole('heading', { name: 'Anmelden' }).waitFor();
    expect(await languageOf(page)).to.equal('de');
    await page.getByLabel('Anmeldename').fill(ADMIN.login);
    await page.getByLabel('Passwort', { exact: true }).fill('not the password');
    await page.getByRole('button', { name: 'Anmelden', exact: true }).click();
    // What the service says is in it, too.
    await page.getByText('Name oder Passwort ist falsch').waitFor();
    await page.getByLabel('Passwort', { exact: true }).fill(ADMIN.password);
    await page.getByRole('button', { name: 'Anmelden', exact: true }).click();
    await page.getByRole('heading', { name: 'Websites' }).waitFor();
    await page.goto('/account');
    const choice = page.getByLabel('Sie lesen');
    expect(await choice.locator('option:checked').textContent()).to.equal('Wie im Browser eingestellt');
    await Promise.all([page.waitForEvent('load'), choice.selectOption('Deutsch')]);
    await page.getByRole('heading', { level: 1, name: 'Ihr Konto' }).waitFor();
    expect(await choice.locator('option:checked').textContent()).to.equal('Deutsch');
  });

  it('follows a member into a browser that they have never used', async () => {
    const page = await newBrowser();
    await page.goto('/');
    await page.getByLabel('User name').fill(ADMIN.login);
    await page.getByLabel('Password', { exact: true }).fill(ADMIN.password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.getByRole('heading', { name: 'Websites' }).waitFor();
    expect(await languageOf(page)).to.equal('de');
    await page.goto('/account');
    await page.getByLabel('Sie lesen').selectOption('English');
    await page.getByRole('heading', { level: 1, name: 'Your account' }).waitFor();
    expect(await languageOf(page)).to.equal('en');
  });
});
