import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { unfold } from '../support/browser.js';
import { useConsole } from '../support/hooks.js';
import { makeMember, PASSWORD } from '../support/members.js';
import type { Stage } from '../support/stage.js';

const params = { site: 'skerrywick' };
const SNIPPET = '/sites/skerrywick/snippets/harbour-chat';

describe('comments and people in the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  let page: Page;
  let stage: Stage;
  let wenna: ApiClient;
  before(async () => {
    ({ stage } = started());
    const token = await makeMember(stage, 'wenna', { sites: { skerrywick: 'edit' } });
    wenna = createClient({ server: stage.server, token, fetch: localhostFetch });
  });
  beforeEach(() => ({ page, stage } = started()));

  const thread = () => page.getByRole('region', { name: 'Comments' });
  const says = (text: string) =>
    wenna.call('addComment', { params, body: { text, snippet: 'harbour-chat' } });

  it('are written at a snippet, to somebody who can be chosen', async () => {
    await page.goto(SNIPPET);
    const field = thread().getByLabel('Write a comment');
    await field.fill('Is this still wanted, @we');
    await thread().getByRole('button', { name: 'Mention Somebody wenna' }).click();
    expect(await field.inputValue()).to.equal('Is this still wanted, @wenna ');
    await field.press('Control+Enter');
    await thread().getByRole('strong').filter({ hasText: '@wenna' }).waitFor();
    expect(await field.inputValue()).to.equal('');
    // There is no mail server here, and nobody is left to believe there were.
    await page.getByText('wenna gets no mail: no address in their account').first().waitFor();
    await field.fill('And @nobody');
    await thread().getByRole('button', { name: 'Comment', exact: true }).click();
    await page.getByText('Nobody who sees this site is called nobody.').first().waitFor();
  });

  it('appear while somebody looks, and are counted', async () => {
    await page.goto(SNIPPET);
    await thread().getByLabel('Write a comment').waitFor();
    const { data } = await says('It was for the summer.');
    await thread().getByText('It was for the summer.').waitFor();
    const { open } = (await wenna.call('listComments', { params, query: {} })).data;
    const link = page.getByRole('navigation', { name: 'Sections of this site' }).getByRole('link', {
      name: /^Comments/,
    });
    await link.getByText(String(open), { exact: true }).waitFor();
    await wenna.call('editComment', { params: { ...params, comment: data.id }, body: { isDone: true } });
    await thread().getByText('It was for the summer.').waitFor({ state: 'detached' });
    await thread().getByRole('button', { name: 'One comment is done' }).click();
    await thread()
      .getByText(/^Done: wenna/)
      .waitFor();
    await thread().getByRole('button', { name: 'Reopen the comment of Somebody wenna' }).click();
    await link.getByText(String(open), { exact: true }).waitFor();
  });

  it('are changed and removed by whoever wrote them, and code in them is text', async () => {
    const code = '<img src=x onerror="document.title = 1">';
    await page.goto(SNIPPET);
    await thread().getByLabel('Write a comment').fill(code);
    await thread().getByRole('button', { name: 'Comment', exact: true }).click();
    const item = thread().getByRole('listitem').filter({ hasText: code });
    await item.getByRole('button', { name: 'Edit the comment of Administrator' }).click();
    await thread().getByLabel('Your comment').fill('Never mind.');
    await thread().getByRole('button', { name: 'Save', exact: true }).click();
    const changed = thread().getByRole('listitem').filter({ hasText: 'Never mind.' });
    await changed.getByText(/· changed /).waitFor();
    await changed.getByRole('button', { name: 'Remove the comment of Administrator' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Remove', exact: true }).click();
    await page.getByText('Comment removed').first().waitFor();
    await changed.waitFor({ state: 'detached' });
    expect(await page.title()).to.not.equal('1');
  });

  it('are on findings, and all of them in one list that leads back', async () => {
    const parts = [{ placement: 'head-end' as const, code: 'window.visits = 1;' }];
    await wenna.call('createSnippet', { params, body: { key: 'bare', name: 'Bare', parts } });
    const { items } = (await wenna.call('listFindings', { params, query: {} })).data;
    const { title, id: finding } = items[0]!;
    await page.goto('/sites/skerrywick/findings');
    const card = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: title }) });
    await card.getByRole('button', { name: 'Comments' }).click();
    await card.getByLabel('Write a comment').fill('Who put this here?');
    await card.getByRole('button', { name: 'Comment', exact: true }).click();
    await card.getByRole('button', { name: 'Comments (1)' }).waitFor();
    await page.goto('/sites/skerrywick/comments');
    const row = page.getByRole('listitem').filter({ hasText: 'Who put this here?' });
    await row.getByRole('link', { name: title }).click();
    await card.getByText('Who put this here?').waitFor();
    expect(decodeURIComponent(new URL(page.url()).hash)).to.equal(`#${finding}`);
    await page.goto('/sites/skerrywick/comments');
    await page.getByRole('radio', { name: 'Done' }).click();
    await page
      .getByText('Nothing is done yet')
      .or(page.getByText(/^Done: /))
      .first()
      .waitFor();
  });

  it('lead from a mail to the very comment', async () => {
    const { data } = await says('Look here, please.');
    await wenna.call('editComment', { params: { ...params, comment: data.id }, body: { isDone: true } });
    await page.goto(`/sites/skerrywick/comments#comment-${data.id}`);
    await page.locator(`#comment-${data.id}`).getByText('Look here, please.').waitFor();
  });

  it('say where mails to somebody go', async () => {
    await page.goto('/account');
    const section = page.getByRole('region', { name: 'Mail to you' });
    await section.getByLabel('Your mail address').fill('nowhere');
    await section.getByRole('button', { name: 'Save' }).click();
    await section.getByText('Write an address like name@example.com.').waitFor();
    started().problems.splice(0);
    await section.getByLabel('Your mail address').fill('harbour@skerrywick.example');
    await section.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Mails to you go to harbour@skerrywick.example.').first().waitFor();
    expect((await stage.client.call('showSession', {})).data.mail).to.equal('harbour@skerrywick.example');
  });

  describe('beside somebody else', () => {
    let other: Page;
    beforeEach(async () => {
      const context = await started().browser.newContext({ baseURL: stage.server, locale: 'en-GB' });
      await context.request.post(`${stage.server}/api/v1/sign-in`, {
        data: { login: 'wenna', password: PASSWORD },
      });
      other = await context.newPage();
    });
    afterEach(() => other.context().close());

    const here = () => page.getByRole('list', { name: 'Also on this site' });

    it('show where they are, and what they are changing', async () => {
      await page.goto('/sites/skerrywick/strip');
      await other.goto('/sites/skerrywick/findings');
      await here().getByRole('link', { name: 'Somebody wenna: Findings' }).waitFor();
      await other.goto(SNIPPET);
      await here().getByRole('link', { name: 'Somebody wenna: Harbour chat' }).waitFor();
      await unfold(other, 'Name and notes');
      await other.getByLabel('Note', { exact: true }).fill('hers');
      await here().getByRole('link', { name: 'Somebody wenna is changing Harbour chat' }).click();
      await page.getByText('Somebody wenna is changing this snippet, too.').waitFor();
      await other.getByRole('button', { name: 'Save to draft' }).click();
      await page.getByText('Somebody wenna is changing this snippet, too.').waitFor({ state: 'detached' });
      // What she has saved is there at once.
      await page.getByText(/Last changed by wenna/).waitFor();
      await other.close();
      await here().waitFor({ state: 'detached' });
    });

    it('keep no connection in a window that nobody sees', async () => {
      await page.goto('/sites/skerrywick/strip');
      await other.goto('/sites/skerrywick/findings');
      await here().getByRole('link', { name: 'Somebody wenna: Findings' }).waitFor();
      const setShown = (state: 'hidden' | 'visible') =>
        other.evaluate((now) => {
          Object.defineProperty(document, 'visibilityState', { value: now, configurable: true });
          document.dispatchEvent(new Event('visibilitychange'));
        }, state);
      await setShown('hidden');
      await here().waitFor({ state: 'detached' });
      await setShown('visible');
      await here().getByRole('link', { name: 'Somebody wenna: Findings' }).waitFor();
    });
  });
});
