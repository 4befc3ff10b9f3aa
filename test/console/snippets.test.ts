import { placementKey } from '@pragmatica/core';
import { expect } from 'chai';
import { useConsole } from '../support/hooks.js';

describe('the list of snippets in the console', function () {
  this.timeout(60_000);
  const open = useConsole();

  const states = async (): Promise<Record<string, string>> => {
    const { data } = await open().stage.client.call('listSnippets', { params: { site: 'skerrywick' } });
    return Object.fromEntries(data.items.map(({ key, state }) => [key, state]));
  };

  it('shows where each goes, when it runs and what is found, and leads to a page where it runs', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/snippets');
    const row = page.getByRole('listitem').filter({ hasText: 'Booking pixel' });
    await row.getByText('at the end of the head · on “Booking pages”').waitFor();
    expect(await row.innerText()).to.match(/Glintpixel/);
    await page.getByRole('link', { name: 'On /booking: page strip' }).first().click();
    await page.getByRole('heading', { level: 1, name: /What a visitor of/ }).waitFor();
    expect(page.url()).to.include('path=%2Fbooking');
  });

  it('finds by words of name, page or code, by state and by placement', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/snippets');
    const names = page.locator('main ul > li a.font-medium');
    await names.first().waitFor();
    const all = await names.count();
    await page.getByLabel('Find a name, provider, page or code').fill('data-account');
    await page.getByText('Harbour chat').waitFor({ state: 'detached' });
    await page.getByRole('link', { name: 'Visit counter' }).waitFor();
    expect(await names.allInnerTexts()).to.deep.equal(['Visit counter']);
    await page.getByLabel('Find a name, provider, page or code').fill('');
    await page.getByRole('button', { name: /^Off/ }).click();
    await page.getByRole('link', { name: 'Visit counter' }).waitFor({ state: 'detached' });
    await page.getByRole('link', { name: 'Works notice' }).waitFor();
    expect(await names.allInnerTexts()).not.to.include('Visit counter');
    await page.getByRole('button', { name: 'All' }).click();
    await page.getByLabel('Placement').selectOption({ label: 'at the start of the head' });
    await page.getByRole('link', { name: 'Works notice' }).waitFor({ state: 'detached' });
    await page.getByRole('link', { name: 'Cookie question' }).waitFor();
    expect(await names.allInnerTexts()).to.deep.equal(['Cookie question', 'Tag container']);
    expect(all).to.be.greaterThan(5);
  });

  it('moves several at once behind what stands there, but for those with parts in several places', async () => {
    const { page } = open();
    const places = async (): Promise<string[]> => {
      const { data } = await open().stage.client.call('listSnippets', { params: { site: 'skerrywick' } });
      return data.items
        .filter(({ key }) => key === 'visit-counter' || key === 'tag-container')
        .map(({ key, parts }) => `${key}: ${parts.map(({ placement }) => placementKey(placement)).join()}`)
        .sort();
    };
    const before = await places();
    await page.goto('/sites/skerrywick/snippets');
    await page.getByLabel('Select Visit counter').check();
    await page.getByLabel('Select Tag container').check();
    await page.getByRole('button', { name: 'Move…' }).click();
    await page.getByRole('dialog').getByLabel('Placement').selectOption('body-end');
    await page.getByRole('dialog').getByRole('button', { name: 'Move', exact: true }).click();
    const toast = page.getByRole('region');
    await toast.getByText('One snippet is now at the end of the body').waitFor();
    await toast.getByText('Left as they are, with parts in several places: tag-container.').waitFor();
    expect(await places()).to.include('visit-counter: body-end');
    await toast.getByRole('button', { name: 'Undo' }).click();
    for (let i = 0; i < 50 && (await places()).join() !== before.join(); i++)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await places()).to.deep.equal(before);
  });

  it('copies several to other sites, and says what became of each', async () => {
    const { page, stage } = open();
    await stage.client.call('createSite', { body: { key: 'tide-mill', name: 'Tide Mill', hosts: [] } });
    await page.goto('/sites/skerrywick/snippets');
    await page.getByLabel('Select Harbour chat').check();
    await page.getByLabel('Select Summer offer').check();
    await page.getByRole('button', { name: 'Copy to other sites…' }).click();
    const dialog = page.getByRole('dialog', { name: 'Copy 2 snippets to other sites' });
    await dialog.getByLabel('Tide Mill').check();
    await dialog.getByRole('button', { name: /^Copy to/ }).click();
    await dialog.getByText('Tide Mill – Harbour chat').waitFor();
    await dialog.getByText('Tide Mill – Summer offer').waitFor();
  });

  it('switches several at once, puts them away and brings them back; all of it can be undone', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/snippets');
    await page.getByLabel('Select Visit counter').check();
    await page.getByLabel('Select Tag container').check();
    await page.getByText('2 snippets selected').waitFor();
    await page.getByRole('button', { name: 'Switch off' }).click();
    await page.getByRole('region').getByText('2 snippets are off in the draft').waitFor();
    expect(await states()).to.include({ 'visit-counter': 'off', 'tag-container': 'off' });
    await page.getByRole('region').getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('switch', { name: /Visit counter/, checked: true }).waitFor();
    expect(await states()).to.include({ 'visit-counter': 'on', 'tag-container': 'on' });
    await page.getByLabel('Select Works notice').check();
    await page.getByRole('button', { name: 'Archive', exact: true }).click();
    await page.getByRole('link', { name: 'Works notice' }).waitFor({ state: 'detached' });
    await page.getByRole('button', { name: /^Archived/ }).click();
    await page.getByLabel('Select Works notice').check();
    await page.getByRole('button', { name: 'Restore' }).click();
    await page.getByText('No snippet matches.').waitFor();
    expect(await states()).to.include({ 'works-notice': 'off' });
  });
});
