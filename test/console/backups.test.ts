import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import type { Download, Page } from 'playwright-core';
import { keysInFile, openBackup, readBackup } from '@pragmatica/backup';
import { useConsole } from '../support/hooks.js';
import { settled, sql, takeBackup } from '../support/backups.js';
import { openConsole } from '../support/browser.js';
import { startStage, type Stage } from '../support/stage.js';

describe('backups in the console', function () {
  this.timeout(180_000);
  const started = useConsole({ hasWorker: true });
  let page: Page;
  let stage: Stage;
  beforeEach(() => ({ page, stage } = started()));

  const region = (name: string) => page.getByRole('region', { name });

  /** What the browser says of a refusal that was wanted. */
  function refused(status: number): void {
    const said = started().problems.splice(0);
    expect(said).to.have.length(1);
    expect(said[0]).to.include(String(status));
  }

  /** Asks for a backup, and waits until it stands among the others: how many there are now. */
  async function backUp(): Promise<number> {
    await page.goto('/backups');
    const { items } = (await stage.client.call('listBackups', {})).data;
    await region('The last backup').getByRole('button', { name: 'Back up now' }).click();
    await region('Kept backups').getByText('asked for by admin').nth(items.length).waitFor();
    return items.length + 1;
  }

  async function file(download: Promise<Download>): Promise<Buffer> {
    return readFileSync(await (await download).path());
  }

  it('are made at once and downloaded, by whoever owns the installation', async () => {
    await page.goto('/');
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Backups' }).click();
    await region('The last backup').getByText('There is no backup yet.').waitFor();
    await region('The last backup').getByRole('button', { name: 'Back up now' }).click();
    const kept = region('Kept backups');
    await kept.getByText('asked for by admin').waitFor();
    await region('The last backup')
      .getByText(/^Made /)
      .waitFor();
    const download = page.waitForEvent('download');
    await kept.getByRole('button', { name: /^Download the backup of/ }).click();
    expect((await download).suggestedFilename()).to.match(/^pragmatica-.*\.tar\.gz$/);
    const bytes = await file(download);
    let isWhole = false;
    async function* once() {
      yield await Promise.resolve(bytes);
    }
    for await (const item of readBackup(await openBackup(once(), []))) isWhole = item.type === 'end';
    expect(isWhole).to.equal(true);
  });

  it('bring a site back beside the one that is there', async () => {
    await backUp();
    await page
      .getByRole('button', { name: /^Bring a site back from/ })
      .first()
      .click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Site', { exact: true }).selectOption('skerrywick');
    expect(await dialog.getByLabel('Its key here').inputValue()).to.match(/^skerrywick-20\d\d-\d\d-\d\d$/);
    await dialog.getByLabel('Its key here').fill('skerrywick');
    await dialog.getByRole('button', { name: 'Bring it back' }).click();
    await dialog.getByText('There is a site "skerrywick" already').waitFor();
    refused(409);
    await dialog.getByLabel('Its key here').fill('skerrywick-before');
    await dialog.getByRole('button', { name: 'Bring it back' }).click();
    await dialog.getByRole('heading', { name: /^“Skerrywick Ferries \(.*\)” is back$/ }).waitFor();
    await dialog.getByText(/^These hosts belong to another site/).waitFor();
    await dialog.getByRole('link', { name: 'Open the site' }).click();
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    expect(page.url()).to.include('/sites/skerrywick-before/strip');
  });

  it('are encrypted for a key that only its maker has', async () => {
    await page.goto('/backups');
    await page.getByRole('button', { name: 'Make a key…' }).click();
    const dialog = page.getByRole('dialog');
    expect(await dialog.getByRole('button', { name: 'I have it. Encrypt with it' }).isDisabled()).to.equal(
      true,
    );
    const download = page.waitForEvent('download');
    await dialog.getByRole('button', { name: 'Download the key' }).click();
    const [key] = keysInFile((await file(download)).toString());
    await dialog.getByRole('button', { name: 'I have it. Encrypt with it' }).click();
    const plan = region('When, and how many are kept');
    expect(await plan.getByLabel('Encrypt for these keys').inputValue()).to.match(/^age1\w+$/);
    await plan.getByLabel('days').fill('14');
    await plan.getByLabel('Back up by itself').selectOption('Every week');
    await plan.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Saved').first().waitFor();
    const { rule } = (await stage.client.call('listBackups', {})).data;
    expect(rule).to.deep.include({ isOn: true, keep: { days: 14, weeks: 4, months: 6 } });
    expect(rule.cron).to.equal('17 3 * * 1');
    await page.getByRole('button', { name: 'Back up now' }).click();
    await region('Kept backups').getByText('encrypted').first().waitFor();
    const made = await settled(stage);
    const bytes = await stage.client.download('fetchBackup', { params: { backup: made.id } });
    const opened = await openBackup(bytes as unknown as AsyncIterable<Uint8Array>, [key!]);
    let isWhole = false;
    for await (const item of readBackup(opened)) isWhole = item.type === 'end';
    expect(isWhole).to.equal(true);
    await plan.getByLabel('Encrypt for these keys').fill('age1nope');
    await plan.getByRole('button', { name: 'Save' }).click();
    await plan.getByText(/“age1nope” is no recipient/).waitFor();
    refused(422);
  });

  it('are removed after a question, and one that failed says why', async () => {
    const before = await backUp();
    const rows = region('Kept backups').getByRole('listitem');
    expect(await rows.count()).to.equal(before);
    await page
      .getByRole('button', { name: /^Remove the backup of/ })
      .first()
      .click();
    await page.getByRole('dialog').getByRole('button', { name: 'Remove', exact: true }).click();
    await page.getByText('The backup was removed').first().waitFor();
    await rows.nth(before - 1).waitFor({ state: 'detached' });
    await sql(
      stage,
      `insert into backup (state, problem, ended_at) values ('failed', 'The disk is full.', now())`,
    );
    await page.reload();
    await region('The last backup').getByText('The last try failed. The disk is full.').waitFor();
  });

  it('are restored here as long as there is nothing', async () => {
    const other = await startStage({ hasDemo: false });
    const { context, page: own } = await openConsole(started().browser, other);
    try {
      await own.goto('/backups');
      await own.getByRole('region', { name: 'Restore a backup here' }).waitFor();
      const backup = await takeBackup(stage);
      const chooser = own.waitForEvent('filechooser');
      await own.getByRole('button', { name: 'Choose a backup…' }).click();
      await (await chooser).setFiles({ name: 'b.tar', mimeType: 'application/x-tar', buffer: backup });
      await own.getByText('Everything is back').waitFor();
      await own.getByRole('button', { name: 'Sign in', exact: true }).click();
      await own.getByLabel('User name').waitFor();
      expect(await sql(other, `select from site where key = 'skerrywick'`)).to.have.length(1);
    } finally {
      await context.close();
      await other.close();
    }
  });
});
