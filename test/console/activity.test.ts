import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { eventually } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

const params = { site: 'skerrywick' };

describe('the activity in the console', function () {
  this.timeout(120_000);
  const started = useConsole();
  let page: Page;
  let stage: Stage;
  beforeEach(() => ({ page, stage } = started()));

  const show = async (snippet: string) =>
    (await stage.client.call('showSnippet', { params: { ...params, snippet } })).data;
  const edit = async (snippet: string, body: object) =>
    stage.client.call('editSnippet', { params: { ...params, snippet }, ifMatch: '*', body });

  it('shows what a change did, and undoes it after others came', async () => {
    const { note } = await show('harbour-chat');
    const before = await show('harbour-chat');
    const parts = before.parts.map(({ placement, code }, index) => ({
      placement,
      code: index === 0 ? `${code}\n<!-- louder -->` : code,
    }));
    await edit('harbour-chat', { note: 'Louder', parts });
    await edit('harbour-chat', { purpose: 'Answers questions' });
    await page.goto('/sites/skerrywick/activity?snippet=harbour-chat');
    await page.getByText('Only what changed “harbour-chat”.').waitFor();
    await page.getByRole('button', { name: /^Details: .*has new code/ }).click();
    const details = page.getByRole('region', { name: 'Harbour chat' });
    await details.getByText('“Louder”', { exact: false }).waitFor();
    await details.getByText('<!-- louder -->').waitFor();
    await page.getByRole('button', { name: /^Undo…: .*has new code/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('has new code', { exact: false }).first().waitFor();
    await dialog.getByRole('button', { name: 'Undo it' }).click();
    await page.getByText('Undone in the draft').first().waitFor();
    await eventually(async () => {
      const now = await show('harbour-chat');
      expect(now).to.include({ note, purpose: 'Answers questions' });
      expect(now.parts[0]!.code).to.equal(before.parts[0]!.code);
    });
  });

  it('asks what is to be there where something was changed again since', async () => {
    await edit('visit-counter', { note: 'First' });
    await edit('visit-counter', { note: 'Second' });
    await page.goto('/sites/skerrywick/activity');
    await page
      .getByRole('button', { name: /^Undo…: “Visit counter”/ })
      .nth(1)
      .click();
    const dialog = page.getByRole('dialog');
    const undo = dialog.getByRole('button', { name: 'Undo it' });
    const choice = dialog.getByRole('group', { name: '“Visit counter”: note' });
    await choice.getByLabel('As it is now: “Second”').waitFor();
    expect(await undo.isDisabled()).to.equal(true);
    await choice.getByLabel(/^As it was before/).check();
    await undo.click();
    await eventually(async () => expect((await show('visit-counter')).note).not.to.equal('Second'));
    // What is undone once more is nothing.
    await dialog.waitFor({ state: 'detached' });
    await page
      .getByRole('button', { name: /^Undo…: “Visit counter”/ })
      .nth(1)
      .click();
    await dialog.getByText('The draft is already as it was before that change.').waitFor();
    await dialog.getByRole('button', { name: 'Close' }).click();
  });

  it('brings a removed snippet back', async () => {
    await stage.client.call('removeSnippet', {
      params: { ...params, snippet: 'works-notice' },
      ifMatch: '*',
    });
    await page.goto('/sites/skerrywick/activity');
    await page.getByRole('button', { name: 'Removed snippets' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Bring back “Works notice”' }).click();
    await page.getByText('“Works notice” is back in the draft').first().waitFor();
    await dialog.getByText('No snippet was removed yet.').waitFor();
    expect((await show('works-notice')).name).to.equal('Works notice');
  });

  it('is searched as somebody types, and says so where nothing has the words', async () => {
    await page.goto('/sites/skerrywick/activity');
    const search = page.getByRole('searchbox', { name: 'Search the activity' });
    await search.fill('published release');
    await eventually(async () => {
      const items = await page.getByRole('main').getByRole('listitem').allTextContents();
      expect(items).not.to.deep.equal([]);
      for (const item of items) expect(item).to.match(/published release/i);
    });
    await search.fill('no such thing at all');
    await page.getByText('No change has these words').waitFor();
  });

  it('of the installation is read and checked by its owners', async () => {
    await page.goto('/');
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Activity of the installation' }).click();
    await page.getByRole('link', { name: 'Skerrywick Ferries' }).first().waitFor();
    const check = page.getByRole('region', { name: 'Is it all as it was written?' });
    const head = (await check.locator('code').textContent())!;
    await check.getByRole('button', { name: 'Check the trail' }).click();
    await check.getByText(/^All \d+ entries are as they were written\.$/).waitFor();
    const kept = check.getByLabel('A head that you kept');
    await kept.fill('12');
    await check.getByText('A head is a number, a colon', { exact: false }).waitFor();
    await kept.fill(head);
    await check.getByRole('button', { name: 'Check the trail' }).click();
    await check.getByText(/^All \d+ entries/).waitFor();
    await kept.fill(`1:${'0'.repeat(64)}`);
    await check.getByRole('button', { name: 'Check the trail' }).click();
    await check.getByText('The head that you kept is not in this chain', { exact: false }).waitFor();
  });
});
