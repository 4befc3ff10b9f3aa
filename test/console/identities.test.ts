import { expect } from 'chai';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { startIdentityProvider, type RunningIdentityProvider } from '../support/identity-provider.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('signing in elsewhere in the console', function () {
  this.timeout(120_000);
  let elsewhere: RunningIdentityProvider;
  let stage: Stage;
  let browser: Browser;
  let context: BrowserContext;
  let page: Page;

  before(async () => {
    elsewhere = await startIdentityProvider();
    stage = await startStage({ hasDemo: false, settings: elsewhere.settings });
    elsewhere.homes.push(stage.server);
    browser = await startBrowser();
  });
  after(async () => {
    await browser.close();
    await stage.close();
    await elsewhere.close();
  });
  beforeEach(async () => {
    context = await browser.newContext({ baseURL: stage.server, locale: 'en-GB' });
    page = await context.newPage();
  });
  afterEach(() => context.close());

  async function signInThere(at: Page, login: string): Promise<void> {
    await at.getByLabel('Who are you?').fill(login);
    await at.getByRole('button', { name: 'Sign in' }).click();
  }

  async function signInHere(): Promise<void> {
    await page.goto('/');
    await page.getByLabel('User name').fill(ADMIN.login);
    await page.getByLabel('Password').fill(ADMIN.password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
  }

  async function signOut(): Promise<void> {
    await page.getByRole('button', { name: ADMIN.login, exact: true }).click();
    await page.getByRole('menuitem', { name: 'Sign out' }).click();
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).waitFor();
  }

  it('is said to be no way in before somebody has connected it', async () => {
    await page.goto('/recipes');
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).click();
    await signInThere(page, 'a-stranger');
    await page.getByRole('heading', { name: 'You are not signed in' }).waitFor();
    await page.getByText('Nobody here is connected with “a-stranger@skerrywick.example”').waitFor();
    // Nothing of what came along stays in the address.
    expect(new URL(page.url()).search).to.equal('');
    // Whoever is signed in there as somebody else is asked again.
    await page.getByRole('button', { name: 'Use another account at Harbour ID' }).click();
    await signInThere(page, 'another-stranger');
    await page.getByText('Nobody here is connected with “another-stranger@skerrywick.example”').waitFor();
    await page.getByRole('link', { name: 'Back' }).click();
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).waitFor();
    expect(new URL(page.url()).pathname).to.equal('/recipes');
  });

  it('is connected under the account, then leads back to where somebody was', async () => {
    await signInHere();
    await page.goto('/account');
    const section = page.getByRole('region', { name: 'Sign in with Harbour ID' });
    await section.getByRole('button', { name: 'Connect with Harbour ID' }).click();
    await signInThere(page, 'admin.elsewhere');
    await section.getByText('admin.elsewhere@skerrywick.example', { exact: true }).waitFor();
    await signOut();
    await page.goto('/recipes?q=chat');
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).click();
    // Who is signed in there is not asked again.
    await page.getByRole('heading', { level: 1, name: 'Recipes' }).waitFor();
    expect(page.url()).to.equal(`${stage.server}/recipes?q=chat`);
    expect(await page.evaluate(() => Object.keys(localStorage))).to.deep.equal([]);
  });

  it('confirms what matters in a window of its own, and goes on', async () => {
    await page.goto('/account');
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).click();
    await signInThere(page, 'admin.elsewhere');
    const tokens = page.getByRole('region', { name: 'Tokens' });
    await tokens.getByLabel('What it is for').fill('Build pipeline');
    await tokens.getByRole('button', { name: 'Create a token' }).click();
    const dialog = page.getByRole('dialog', { name: 'Confirm that it is you' });
    const [popup] = await Promise.all([
      page.waitForEvent('popup'),
      dialog.getByRole('button', { name: 'Confirm at Harbour ID' }).click(),
    ]);
    // A session that is open there is not enough.
    await Promise.all([popup.waitForEvent('close'), signInThere(popup, 'admin.elsewhere')]);
    await page.getByText('The token “Build pipeline”').waitFor();
    expect(await dialog.count()).to.equal(0);
  });

  it('lets somebody join without a password, and choose one later', async () => {
    const { data } = await stage.client.call('createInvitation', {
      body: { name: 'Orla', role: 'edit', sites: [] },
    });
    await page.goto(data.path);
    await page.getByLabel('User name').fill('Orla');
    await page.getByRole('button', { name: 'Join with Harbour ID, without a password' }).click();
    await signInThere(page, 'orla');
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    await page.goto('/account');
    await page.getByText('Signed in as orla.').waitFor();
    const section = page.getByRole('region', { name: 'Password' });
    await section.getByLabel('New password').fill('a password of her own');
    await section.getByLabel('Repeat password').fill('a password of her own');
    await section.getByRole('button', { name: 'Choose a password' }).click();
    const dialog = page.getByRole('dialog', { name: 'Confirm that it is you' });
    const button = dialog.getByRole('button', { name: 'Confirm at Harbour ID' });
    expect(await dialog.getByLabel('Your password').count()).to.equal(0);
    const [popup] = await Promise.all([page.waitForEvent('popup'), button.click()]);
    await Promise.all([popup.waitForEvent('close'), signInThere(popup, 'orla')]);
    await section.getByRole('button', { name: 'Change password' }).waitFor();
    await section.getByLabel('Current password').waitFor();
  });

  it('takes no answer that another browser went for', async () => {
    await page.goto('/');
    const gone = page.waitForRequest((request) => request.url().includes('/sign-in/answer?'));
    await page.getByRole('button', { name: 'Sign in with Harbour ID' }).click();
    await page.route('**/sign-in/answer?*', (route) => route.abort());
    await signInThere(page, 'admin.elsewhere');
    const link = (await gone).url();
    const victim = await browser.newContext({ baseURL: stage.server, locale: 'en-GB' });
    const other = await victim.newPage();
    await other.goto(link);
    await other.getByRole('heading', { name: 'Begin in this browser' }).waitFor();
    await other.getByRole('link', { name: 'Back' }).click();
    await other.getByRole('button', { name: 'Sign in', exact: true }).waitFor();
    await victim.close();
  });
});
