import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { pickUp, replaceCode, unfold } from '../support/browser.js';
import { useConsole } from '../support/hooks.js';
import type { Stage } from '../support/stage.js';

describe('the console reads, checks and fixes', function () {
  this.timeout(180_000);
  const started = useConsole();
  let stage: Stage;
  let page: Page;
  before(() => ({ stage } = started()));
  beforeEach(() => ({ page } = started()));

  const params = { site: 'skerrywick' };
  const findings = '/sites/skerrywick/findings';

  it('says when all is in order', async () => {
    await page.goto(findings);
    await page.getByText('Nothing to fix').waitFor();
  });

  it('says what pasted code is while it is pasted, places it, names it, and leaves it where somebody puts it', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    const code = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
    await replaceCode(page, code);
    const panel = page.getByRole('region', { name: 'What this code is' });
    await panel.getByText('Looks like analytics').waitFor();
    await panel.getByText('TM-7731 at tallymast.example').waitFor();
    const at = (name: RegExp) => page.getByRole('radio', { name, checked: true });
    await at(/End of the head/).waitFor();
    await page.getByText('Best here. In the head it also counts').waitFor();
    await page.getByText('Tallymast visit counter · Tallymast').waitFor();
    await unfold(page, 'Name and notes');
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).to.equal('Tallymast visit counter');
    expect(await page.getByLabel('Provider', { exact: true }).inputValue()).to.equal('Tallymast');
    await page.getByLabel('What the provider says').fill('as high in the head as possible');
    await at(/Start of the head/).waitFor();
    await page.getByRole('radio', { name: 'End of the body' }).click();
    await page
      .getByText('is at the end of the body, but its provider wants it at the start of the head')
      .waitFor();
    await page.getByRole('button', { name: 'Move it there' }).click();
    await at(/Start of the head/).waitFor();
    await page.getByLabel('Name', { exact: true }).fill('My counter');
    await replaceCode(page, `${code}\n`);
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).to.equal('My counter');
  });

  it('checks pasted code with the rest of the site before it is saved, and underlines where', async () => {
    const { data } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'visit-counter' },
    });
    await page.goto('/sites/skerrywick/snippets/new');
    const checked = page.getByRole('region', { name: 'Checked with the rest of the site' });
    await replaceCode(page, data.parts[0]!.code);
    await checked.getByText('is the same code as “Visit counter”').waitFor();
    await replaceCode(page, '<script>var account = "YOUR_ACCOUNT_ID";</script>');
    await checked.getByText('still has the example value “YOUR_ACCOUNT_ID”').waitFor();
    const underlined = page.locator('.cm-lintRange-error');
    expect(await underlined.textContent()).to.equal('YOUR_ACCOUNT_ID');
    await underlined.hover();
    await page.locator('.cm-diagnostic').getByText('still has the example value').waitFor();
    await replaceCode(
      page,
      'Please add this to your website:\n<script>window.offer = 1;</script>\nRegards, Ona',
    );
    await checked.getByText('includes the message that the code came in').waitFor();
    await checked.getByRole('button', { name: 'Keep only the code' }).click();
    await checked.getByText('It fits').waitFor();
    expect(await page.locator('.cm-content').textContent()).to.equal('<script>window.offer = 1;</script>');
    await replaceCode(page, '<script>broken(</script>');
    await checked
      .getByText(/is cut off/)
      .first()
      .waitFor();
    await replaceCode(page, '<script>window.quietly = 1;</script>');
    await checked.getByText('It fits').waitFor();
    expect(await page.locator('.cm-lintRange-error').count()).to.equal(0);
    expect(
      (await stage.client.call('showDraft', { params })).data.snapshot.snippets.map(({ name }) => name),
    ).not.to.include('Tallymast visit counter');
  });

  it('keeps two pieces that were pasted together as two parts, each in its place', async () => {
    await page.goto('/sites/skerrywick/snippets/new');
    await replaceCode(
      page,
      '<script async src="https://crateline.example/crate.js?id=CR-1-2"></script><noscript><iframe src="https://crateline.example/n.html?id=CR-1-2"></iframe></noscript>',
    );
    await page.getByRole('button', { name: 'Put each in its place' }).click();
    await page.getByText('Part 2 of 2').waitFor();
    expect(await page.locator('.cm-content').allTextContents()).to.have.length(2);
  });

  it('shows a finding with its place, fixes it after showing what changes, and takes that back', async () => {
    const code = 'window.visits = 1;';
    await stage.client.call('createSnippet', {
      params,
      body: { key: 'visits', name: 'Visits', parts: [{ placement: 'body-end', code }] },
    });
    const codeNow = async () =>
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'visits' } })).data.parts[0]!
        .code;
    await page.goto(findings);
    const wrong = page.getByRole('region', { name: 'Errors' });
    await wrong.getByRole('heading', { name: '“Visits” has no <script> tags' }).waitFor();
    await wrong.getByText(code).waitFor();
    await wrong.getByRole('button', { name: /Add <script> tags/ }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('<script>', { exact: true }).waitFor();
    expect(await dialog.getByLabel('added').count()).to.equal(2);
    expect(await codeNow()).to.equal(code);
    await dialog.getByRole('button', { name: 'Fix' }).click();
    await page.getByText('Nothing to fix').waitFor();
    expect(await codeNow()).to.equal(`<script>\n${code}\n</script>`);
    await page.getByRole('button', { name: 'Undo' }).click();
    await wrong.getByRole('heading', { name: '“Visits” has no <script> tags' }).waitFor();
    expect(await codeNow()).to.equal(code);
  });

  describe('with things that are wrong', () => {
    const add = (key: string, placement: 'head-end' | 'body-end', code: string) =>
      stage.client.call('createSnippet', { params, body: { key, name: key, parts: [{ placement, code }] } });
    const made: string[] = [];
    before(async () => {
      await add('event', 'head-end', "<script>tideTable.show('today');</script>");
      await add('tides', 'head-end', '<script>window.tideTable = { show() {} };</script>');
      await add('share', 'body-end', '<script async src="http://sharebuoy.example/share.js"></script>');
      made.push('event', 'tides', 'share', 'visits');
    });
    after(async () => {
      for (const snippet of made)
        await stage.client.call('removeSnippet', { params: { ...params, snippet }, ifMatch: '*' });
    });

    it('accepts a finding with a reason, shows it apart, and takes that back', async () => {
      await page.goto(findings);
      const doubtful = page.getByRole('region', { name: 'Warnings' });
      await doubtful.getByText('without https').first().waitFor();
      await doubtful.getByRole('button', { name: 'Accept for now…' }).click();
      const dialog = page.getByRole('dialog');
      await dialog.getByLabel('Why is this OK?').fill('No https before May');
      await dialog.getByLabel('Until').fill('2999-05-01');
      await dialog.getByRole('button', { name: 'Accept' }).click();
      const accepted = page.getByRole('region', { name: 'Accepted' });
      await accepted.getByText('Accepted by admin until 2999-05-01: No https before May').waitFor();
      await accepted.getByRole('button', { name: 'Stop accepting' }).click();
      await doubtful.waitFor();
    });

    it('lists the findings by snippet, too', async () => {
      await page.goto(findings);
      await page.getByRole('radio', { name: 'By snippet' }).click();
      await page.getByRole('region', { name: 'event' }).waitFor();
      await page.getByRole('region', { name: 'share' }).waitFor();
    });

    it('counts them on the list of sites', async () => {
      await page.goto('/');
      await page.getByText('2 errors', { exact: true }).waitFor();
      await page.getByText(/Cannot be published/).waitFor();
    });

    it('asks for a reason before it publishes errors, and shows which are new', async () => {
      await page.goto('/sites/skerrywick/strip?of=draft');
      await page.getByRole('button', { name: 'Publish…' }).click();
      const dialog = page.getByRole('dialog');
      await dialog.getByText('2 errors').waitFor();
      expect(await dialog.getByText('new', { exact: true }).count()).to.equal(3);
      await dialog.getByLabel('What does this change?').fill('Tides');
      await dialog.getByLabel('Why publish anyway?').fill('The fair opens at nine');
      await dialog.getByRole('button', { name: 'Publish anyway' }).click();
      // It goes when the release is there.
      await dialog.waitFor({ state: 'detached' });
      await page.goto('/sites/skerrywick/releases');
      await page.getByText('Reason: The fair opens at nine').waitFor();
    });

    it('says while a part is dragged what would be wrong there, and puts all in the right order at once', async () => {
      await page.goto('/sites/skerrywick/strip?of=draft');
      const order = page.getByRole('region', { name: 'Order' });
      await order.getByText('Move “event” right below “tides”').waitFor();
      const putRight = order.getByRole('button', { name: 'Fix the order' });
      await putRight.click();
      await order.waitFor({ state: 'detached' });
      await page.getByRole('button', { name: 'Undo' }).click();
      await putRight.click();
      await order.waitFor({ state: 'detached' });
      await pickUp(page, 'Move event');
      await page.keyboard.press('ArrowUp');
      await page.getByText('Wrong here: “event” uses “tideTable”, which “tides” defines.').waitFor();
      await page.keyboard.press('Space');
      await page.getByText('Wrong here').waitFor({ state: 'detached' });
      await order.waitFor();
    });

    it('fills in a snippet as a release had it, without saving', async () => {
      await page.goto('/sites/skerrywick/snippets/tides');
      const { data } = await stage.client.call('editSnippet', {
        params: { ...params, snippet: 'tides' },
        ifMatch: '*',
        body: { note: 'changed' },
      });
      await page.reload();
      await page.getByRole('region', { name: 'History' }).getByText('is new').waitFor();
      await unfold(page, 'Name and notes');
      expect(await page.getByLabel('Note', { exact: true }).inputValue()).to.equal('changed');
      await page.getByRole('button', { name: 'Load this version' }).click();
      await page.getByText('Nothing changes until you save').waitFor();
      await unfold(page, 'Name and notes');
      expect(await page.getByLabel('Note', { exact: true }).inputValue()).to.equal('');
      const { data: now } = await stage.client.call('showSnippet', {
        params: { ...params, snippet: 'tides' },
      });
      expect(now.version).to.equal(data.version);
    });

    it('fixes all that can be fixed at once, after showing what changes', async () => {
      const { data, etag } = await stage.client.call('showOrder', { params });
      const { placement, parts } = data.lists.find((list) => list.parts.includes('event/1'))!;
      const wrong = ['event/1', ...parts.filter((part) => part !== 'event/1')];
      const lists = [{ placement, parts: wrong }];
      await stage.client.call('changeOrder', { params, ifMatch: etag, body: { lists } });
      await page.goto(findings);
      await page.getByRole('button', { name: /Fix all \d/ }).click();
      const dialog = page.getByRole('dialog');
      await dialog.getByText(/“(event|tides)” now comes/).waitFor();
      await dialog.getByText(/“Visits” has new code/).waitFor();
      await dialog.getByRole('button', { name: 'Fix' }).click();
      await page.getByRole('region', { name: 'Errors' }).waitFor({ state: 'detached' });
    });
  });
});
