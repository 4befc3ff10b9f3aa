import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { parseWeekly } from '@pragmatica/core';
import { unfold } from '../support/browser.js';
import { useConsole } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

describe('two people editing a snippet in the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  const params = { site: 'skerrywick', snippet: 'harbour-chat' };
  let page: Page;
  let stage: Stage;
  beforeEach(async () => {
    ({ page, stage } = started());
    const parts = [{ placement: 'body-end' as const, code: CODE }];
    const limits = { hours: { weekly: parseWeekly('mon-fri 09:00-17:00') } };
    await theySave({ note: 'as it was', purpose: 'Talk', parts, limits });
    await page.goto('/sites/skerrywick/snippets/harbour-chat');
    await unfold(page, 'Name and notes');
  });

  const CODE = '<script>\nvar a = 1;\nvar b = 2;\nvar c = 3;\n</script>';
  const theySave = async (body: object): Promise<void> => {
    await stage.client.call('editSnippet', { params, ifMatch: '*', body });
  };
  const saved = async () => (await stage.client.call('showSnippet', { params })).data;
  const save = () => page.getByRole('button', { name: 'Save to draft' }).click();
  const note = () => page.getByLabel('Note', { exact: true });
  /** What the browser says of an answer that was wanted. */
  const refused = (): void => {
    started().problems.splice(0);
  };

  it('brings together what they changed, and loses nothing that was typed', async () => {
    await note().fill('mine');
    await theySave({ purpose: 'Ask the harbour' });
    await save();
    const dialog = page.getByRole('dialog', { name: 'You were both editing this snippet' });
    await dialog.getByText('From admin: purpose.').waitFor();
    await dialog.getByText('From you: note.').waitFor();
    refused();
    // Whoever wants to look at it once more finds it as it was typed.
    await dialog.getByRole('button', { name: 'Back to editing' }).click();
    expect(await note().inputValue()).to.equal('mine');
    await save();
    await dialog.getByRole('button', { name: 'Save together' }).click();
    await page.getByText('Saved, with what admin changed').first().waitFor();
    expect(await saved()).to.include({ note: 'mine', purpose: 'Ask the harbour' });
  });

  it('asks about each thing that both changed, and can keep both', async () => {
    await note().fill('mine');
    await theySave({ note: 'theirs', limits: { hours: { weekly: parseWeekly('mon-fri 08:00-17:00') } } });
    await save();
    const dialog = page.getByRole('dialog');
    const button = dialog.getByRole('button', { name: 'Save together' });
    await dialog.getByText('Both of you changed').waitFor();
    refused();
    expect(await button.isDisabled()).to.equal(true);
    await dialog.getByRole('radio', { name: 'admin’s: “theirs”' }).check();
    expect(await button.isDisabled()).to.equal(false);
    await dialog.getByRole('radio', { name: /^Keep both:/ }).check();
    await button.click();
    await page.getByText('Saved, with what admin changed').first().waitFor();
    expect((await saved()).note).to.equal('theirs\nmine');
  });

  it('says so while somebody still types, and shows what is new to who does not', async () => {
    await theySave({ note: 'first' });
    // The form is filled in anew.
    await note().waitFor({ state: 'detached' });
    await unfold(page, 'Name and notes');
    expect(await note().inputValue()).to.equal('first');
    await note().fill('mine');
    await theySave({ purpose: 'Later' });
    await page.getByText('admin has saved this snippet while you were editing (purpose).').waitFor();
    expect(await note().inputValue()).to.equal('mine');
    await save();
    await page.getByRole('dialog').getByRole('button', { name: 'Save together' }).click();
    await page.getByText('Saved, with what admin changed').first().waitFor();
    expect(await saved()).to.include({ note: 'mine', purpose: 'Later' });
  });

  it('is no matter where something was only switched meanwhile', async () => {
    await note().fill('mine');
    await page.getByRole('switch').first().click();
    await page.locator('[role=switch][aria-checked=false]').first().waitFor();
    await save();
    await page.getByText('Saved to the draft').first().waitFor();
    refused();
    expect(await saved()).to.include({ note: 'mine', state: 'off' });
    await theySave({ state: 'on' });
  });
});
