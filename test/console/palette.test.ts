import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { useConsole } from '../support/hooks.js';
import { found } from '../../packages/console/src/views/palette/match.js';

describe('what is found by a few letters', () => {
  const names = ['Page strip', 'Settings: Page groups', 'Harbour chat', 'Ärmelkanal', 'Chart of tides'];
  const items = names.map((label) => ({ label, also: label === 'Harbour chat' ? 'parlanook' : '' }));
  const by = (typed: string, most = 9) => found(items, typed, most).map(({ label }) => label);

  it('is all of it, in order, for nothing', () => {
    expect(by('', 2)).to.deep.equal(names.slice(0, 2));
    expect(by('  ')).to.deep.equal(names);
  });

  it('begins with them, before what has them in a later word, before what has them anywhere', () => {
    expect(by('pa')).to.deep.equal(['Page strip', 'Settings: Page groups', 'Harbour chat']);
    expect(by('ch')).to.deep.equal(['Chart of tides', 'Harbour chat']);
  });

  it('has each word, in whatever order, without case and accents', () => {
    expect(by('group SETT')).to.deep.equal(['Settings: Page groups']);
    expect(by('armel')).to.deep.equal(['Ärmelkanal']);
    expect(by('page chat')).to.deep.equal([]);
  });
});

describe('finding anything in the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  let page: Page;
  beforeEach(() => ({ page } = started()));

  const dialog = () => page.getByRole('dialog', { name: 'Find anything' });
  const field = () => dialog().getByRole('combobox');
  const option = (name: string | RegExp) => dialog().getByRole('option', { name });

  it('goes to a snippet of the site by keys alone', async () => {
    await page.goto('/sites/skerrywick/strip');
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    await page.keyboard.press('Control+k');
    await field().fill('harb chat');
    await option('Harbour chat').waitFor();
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { level: 1, name: 'Harbour chat' }).waitFor();
    await dialog().waitFor({ state: 'detached' });
  });

  it('opens by its button, shows where one can go, and closes', async () => {
    await page.goto('/sites/skerrywick/findings');
    await page.getByRole('button', { name: 'Find', exact: true }).click();
    await option('Page strip').waitFor();
    await field().fill('hosts');
    await option('Settings: Hosts').click();
    await page.waitForURL('**/settings/hosts');
    await page.keyboard.press('Control+k');
    await field().fill('zzzz');
    await dialog().getByText('Nothing is called that.').waitFor();
    await page.keyboard.press('Escape');
    await dialog().waitFor({ state: 'detached' });
  });

  it('does things, too, and finds other sites and the help', async () => {
    await page.goto('/');
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    await page.keyboard.press('Control+k');
    await field().fill('dark mode');
    await option('Switch to dark mode').click();
    await page.waitForFunction(() => document.documentElement.dataset['theme'] === 'dark');
    await page.keyboard.press('Control+k');
    await field().fill('skerry');
    await option('Skerrywick Ferries').click();
    await page.waitForURL('**/sites/skerrywick/strip**');
    await page.keyboard.press('Control+k');
    await field().fill('bring back what was removed');
    await page.keyboard.press('Enter');
    await page.waitForURL('**/help/history');
  });
});

describe('the tour', function () {
  this.timeout(180_000);
  const started = useConsole();
  let page: Page;
  beforeEach(() => ({ page } = started()));

  const offer = () => page.getByRole('region', { name: 'New here?' });
  const card = (title: RegExp) => page.getByRole('dialog', { name: title });

  it('is offered on the demo, shows every part, and is not offered again', async () => {
    await page.goto('/');
    await offer().getByRole('button', { name: 'Take the tour' }).click();
    await card(/^All your sites/)
      .getByText('Step 1 of 8')
      .waitFor();
    await offer().waitFor({ state: 'detached' });
    const pointedAt = () => page.locator('[data-tour-shown]');
    expect(await pointedAt().innerText()).to.equal('Sites');
    const titles: string[] = [];
    for (let step = 2; step <= 8; step++) {
      await page.keyboard.press('Tab');
      await page.getByRole('dialog').getByRole('button', { name: 'Next' }).click();
      await page.getByText(`Step ${step} of 8`).waitFor();
      await pointedAt().waitFor();
      titles.push(new URL(page.url()).pathname);
    }
    await page.waitForURL('**/help');
    expect(titles[0]).to.equal('/sites/skerrywick/strip');
    await page.getByRole('button', { name: 'Done', exact: true }).click();
    await page.goto('/');
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    expect(await offer().count()).to.equal(0);
  });

  it('is left at any step, goes on after a reload, and is in the menu', async () => {
    await page.goto('/');
    await offer().getByRole('button', { name: 'No, thanks' }).click();
    await offer().waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Take the tour' }).click();
    await card(/^All your sites/)
      .getByRole('button', { name: 'Next' })
      .click();
    await card(/^A page, from top/).waitFor();
    await page.reload();
    await card(/^A page, from top/)
      .getByRole('button', { name: 'Back' })
      .click();
    await card(/^All your sites/).waitFor();
    // Whatever is beside it can be used meanwhile.
    await page.getByRole('link', { name: 'Recipes' }).click();
    await page.waitForURL('**/recipes');
    await card(/^All your sites/)
      .getByRole('button', { name: 'Leave the tour' })
      .click();
    await card(/^All your sites/).waitFor({ state: 'detached' });
    expect(await page.locator('[data-tour-shown]').count()).to.equal(0);
  });

  it('ends with Escape, and tells screen readers where it is', async () => {
    await page.goto('/');
    await offer().getByRole('button', { name: 'Take the tour' }).click();
    await card(/^All your sites/).waitFor();
    expect(await page.evaluate(() => document.activeElement?.textContent)).to.match(/^All your sites/);
    await page.keyboard.press('Escape');
    await card(/^All your sites/).waitFor({ state: 'detached' });
  });
});
