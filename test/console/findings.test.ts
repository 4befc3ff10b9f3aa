import { expect } from 'chai';
import type { Browser, Page } from 'playwright-core';
import { openConsole, type ConsolePage } from '../support/browser.js';
import { useStageAndBrowser } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

describe('the console reads, checks and mends', function () {
  this.timeout(180_000);
  const started = useStageAndBrowser();
  let stage: Stage;
  let browser: Browser;
  let open: ConsolePage;
  let page: Page;
  before(() => ({ stage, browser } = started()));
  beforeEach(async () => {
    open = await openConsole(browser, stage);
    page = open.page;
  });
  afterEach(async () => {
    await open.context.close();
    expect(open.problems, 'what the browser complained about').to.deep.equal([]);
  });

  const params = { site: 'skerrywick' };
  const findings = '/sites/skerrywick/findings';

  it('says when all is in order', async () => {
    await page.goto(findings);
    await page.getByText('All in order').waitFor();
  });

  it('says what pasted code is while it is pasted, and places it by one press', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await page
      .locator('.cm-content')
      .fill('<script async src="https://tallymast.example/count.js?id=TM-7731"></script>');
    const panel = page.getByRole('region', { name: 'What this code is' });
    await panel.getByText('Looks like something that counts visits').waitFor();
    await panel.getByText('TM-7731 at tallymast.example').waitFor();
    await panel.getByRole('button', { name: 'Place it there' }).click();
    await panel.getByRole('button', { name: 'Place it there' }).waitFor({ state: 'detached' });
    expect(await page.getByRole('radio', { name: /End of the head/i }).isChecked()).to.equal(true);
  });

  it('keeps two pieces that were pasted together as two parts, each in its place', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await page
      .locator('.cm-content')
      .fill(
        '<script async src="https://crateline.example/crate.js?id=CR-1-2"></script><noscript><iframe src="https://crateline.example/n.html?id=CR-1-2"></iframe></noscript>',
      );
    await page.getByRole('button', { name: 'Keep each at its place' }).click();
    await page.getByText('Part 2 of 2').waitFor();
    expect(await page.locator('.cm-content').allTextContents()).to.have.length(2);
  });

  it('shows a finding with its place, mends it after showing what changes, and takes that back', async () => {
    const code = 'window.visits = 1;';
    await stage.client.call('createSnippet', {
      params,
      body: { key: 'visits', name: 'Visits', parts: [{ placement: 'body-end', code }] },
    });
    const codeNow = async () =>
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'visits' } })).data.parts[0]!
        .code;
    await page.goto(findings);
    const wrong = page.getByRole('region', { name: 'Wrong' });
    await wrong.getByRole('heading', { name: '“Visits” has no <script> tags' }).waitFor();
    await wrong.getByText(code).waitFor();
    await wrong.getByRole('button', { name: /Write <script> tags/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('The code afterwards').waitFor();
    expect(await codeNow()).to.equal(code);
    await dialog.getByRole('button', { name: 'Mend it' }).click();
    await page.getByText('All in order').waitFor();
    expect(await codeNow()).to.equal(`<script>\n${code}\n</script>`);
    await page.getByRole('button', { name: 'Take it back' }).click();
    await wrong.getByRole('heading', { name: '“Visits” has no <script> tags' }).waitFor();
    expect(await codeNow()).to.equal(code);
  });
});
