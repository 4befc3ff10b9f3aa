import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { useConsole } from '../support/hooks.js';

describe('files in the console', function () {
  this.timeout(60_000);
  const open = useConsole();
  let folder: string;
  before(() => (folder = mkdtempSync(join(tmpdir(), 'pragmatica-files-'))));
  after(() => rmSync(folder, { recursive: true }));

  it('gives a whole site to keep, and adds one from its file', async () => {
    const { page } = open();
    await page.goto('/sites/skerrywick/settings/files');
    const saving = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download the whole site' }).click();
    const saved = await saving;
    expect(saved.suggestedFilename()).to.equal('skerrywick.json');
    const file = join(folder, 'skerrywick.json');
    await saved.saveAs(file);
    expect(JSON.parse(readFileSync(file, 'utf8'))).to.have.property('format', 'pragmatica-site/1');

    await page.goto('/');
    writeFileSync(join(folder, 'other.json'), '{"format":"other/1"}');
    await page.getByLabel('Site file').setInputFiles(join(folder, 'other.json'));
    await page.getByText('other.json is not a site').first().waitFor();
    await page.getByLabel('Site file').setInputFiles(file);
    const dialog = page.getByRole('dialog');
    await dialog.getByText('Add “Skerrywick Ferries” from a file?').waitFor();
    await dialog.getByText('There is already a site “skerrywick”', { exact: false }).waitFor();
    expect(await dialog.getByLabel('Key').inputValue()).to.equal('skerrywick-2');
    await dialog.getByText('Without its hosts: ', { exact: false }).waitFor();
    await dialog.getByLabel('Key').fill('second');
    await dialog.getByRole('button', { name: 'Add site' }).click();
    await page.waitForURL(/\/sites\/second\//);
  });

  it('shows what a set would change before it does', async () => {
    const { page, stage } = open();
    const params = { site: 'skerrywick' };
    const { data } = await stage.client.call('showDraft', { params });
    const code = '<script>window.tide = 1;</script>';
    const tide = { key: 'tide', name: 'Tide', parts: [{ placement: 'body-end', rank: 0, code }] };
    const file = join(folder, 'set.json');
    writeFileSync(file, JSON.stringify({ ...data.snapshot, snippets: [tide] }));
    await page.goto('/sites/skerrywick/settings/files');
    await page.getByLabel('Set file').setInputFiles(file);
    const dialog = page.getByRole('dialog');
    await dialog.getByText('One change:').waitFor();
    await dialog.getByText('“Tide” is new: at the end of the body', { exact: false }).waitFor();
    await dialog.getByRole('button', { name: 'Import' }).click();
    await page.getByText('Imported into the draft').first().waitFor();
    const { data: snippets } = await stage.client.call('listSnippets', { params });
    expect(snippets.items.map(({ key }) => key))
      .to.include('tide')
      .and.include('cookie-question');
    await page.getByLabel('Set file').setInputFiles(file);
    await dialog.getByText('Nothing would change', { exact: false }).waitFor();
    expect(await dialog.getByRole('button', { name: 'Import' }).isDisabled()).to.equal(true);
  });
});
