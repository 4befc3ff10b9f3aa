import { expect } from 'chai';
import { useConsole } from '../support/hooks.js';

describe('delivery in the console', function () {
  this.timeout(60_000);
  const open = useConsole();

  it('gives the one line to copy, and compares the ways', async () => {
    const { page } = open();
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
    await page.goto('/sites/skerrywick/delivery');
    await page.getByRole('button', { name: 'Copy In order' }).click();
    await page.getByText('Now paste it into the head box of the site').first().waitFor();
    expect(await page.evaluate(() => navigator.clipboard.readText())).to.equal(
      '<script src="https://code.example.com/one/skerrywick.js"></script>',
    );
    const table = page.getByRole('table');
    expect(await table.getByRole('columnheader').allInnerTexts()).to.have.length(7);
    await table.getByRole('rowheader', { name: 'Visitors without JavaScript' }).waitFor();
  });

  it('finds the way that suits a site with a few questions', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/delivery');
    const finder = page.getByRole('region', { name: 'Which way suits this site?' });
    await finder.getByText('Is there a box for code that goes into the head of all pages?').waitFor();
    await finder.getByRole('button', { name: 'No' }).click();
    await finder.getByText('Can you change where the domain points').waitFor();
    await finder.getByRole('button', { name: 'Yes' }).click();
    await finder.getByText('Use the gateway.').waitFor();
    await finder.getByRole('button', { name: 'Ask again' }).click();
    await finder.getByRole('button', { name: 'Yes' }).click();
    await finder.getByText('Use the one line, in order.').waitFor();
    await finder.getByText('These would work too: the one line, async, blocks to paste.').waitFor();
  });

  it('asks which boxes there are, gives the text for each, and notes what is pasted', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/delivery');
    await page.getByText('No boxes are described yet').waitFor();
    await page.getByRole('button', { name: 'Describe boxes…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('The head of all pages').check();
    await dialog.getByLabel('What it is called there').fill('Custom head code');
    await dialog.getByRole('button', { name: 'Save' }).click();
    const card = page.getByRole('listitem').filter({ hasText: 'Custom head code' });
    await card.getByText('To paste').waitFor();
    await card.getByText('Show the text').click();
    expect(await card.locator('details pre').innerText()).to.match(
      /^<!-- Pragmatica skerrywick release 1 site-head/,
    );
    await card.getByRole('button', { name: 'Mark as pasted' }).click();
    await card.getByText('Pasted', { exact: true }).waitFor();
    // Somebody else pastes the rest, without an account.
    await page.getByRole('button', { name: 'Make a link' }).click();
    const link = await page.getByText(/\/handover#pragmatica_/).innerText();
    await page.getByText('It is shown only now.').waitFor();
    const { browser } = open();
    const other = await (await browser.newContext()).newPage();
    await other.goto(link);
    await other.getByRole('heading', { name: 'Code to paste into Skerrywick Ferries' }).waitFor();
    await other.getByText('Everything is pasted. Thank you!').waitFor();
    await other.emulateMedia({ media: 'print' });
    await other.locator('li > pre').waitFor();
    expect(await other.getByRole('button', { name: 'Print' }).count()).to.equal(0);
    await other.goto(`${link}x`);
    await other.getByText('This link no longer works').waitFor();
    await other.context().close();
    await page.getByRole('button', { name: 'Check the live pages' }).click();
    await page.getByText('“Custom head code” has no block of ours').first().waitFor();
    await page.getByRole('button', { name: 'Change boxes…' }).click();
    await dialog.getByLabel('The head of all pages').uncheck();
    await dialog.getByLabel('A code block on one page').check();
    await dialog.getByLabel('What it is called there').fill('Code block');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Our block is still in').waitFor();
    await page.getByText('No box takes these').waitFor();
    await page.getByRole('button', { name: 'Mark as removed' }).click();
    await page.getByText('Our block is still in').waitFor({ state: 'detached' });
  });
});
