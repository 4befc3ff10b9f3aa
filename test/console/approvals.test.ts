import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { DESKTOP, openConsole } from '../support/browser.js';
import { eventually } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import { PASSWORD, makeMember } from '../support/members.js';
import type { Stage } from '../support/stage.js';

const params = { site: 'skerrywick' };

describe('four eyes in the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  let page: Page;
  let stage: Stage;
  beforeEach(() => ({ page, stage } = started()));

  /** A page of somebody else, who may not be signed in. */
  async function stranger(visit: (page: Page) => Promise<void>): Promise<void> {
    const { context, page: own } = await openConsole(started().browser, stage, DESKTOP, false);
    try {
      await visit(own);
    } finally {
      await context.close();
    }
  }

  const edit = async (note: string) => {
    const { data } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'harbour-chat' },
    });
    const parts = data.parts.map(({ placement, code }) => ({ placement, code: `${code}\n<!-- ${note} -->` }));
    await stage.client.call('editSnippet', {
      params: { ...params, snippet: 'harbour-chat' },
      ifMatch: '*',
      body: { parts },
    });
  };

  it('hold a change back until somebody else has looked at it', async () => {
    await page.goto('/sites/skerrywick/settings/people');
    await page.getByLabel('What goes live needs approval').click();
    await eventually(async () =>
      expect((await stage.client.call('listApprovals', { params, query: {} })).data.rule.isNeeded).to.equal(
        true,
      ),
    );
    await edit('winter hours');
    await page.goto('/sites/skerrywick/strip');
    await page.getByText('Before it goes live, somebody else looks at it.').waitFor();
    await page.getByRole('button', { name: 'Ask for approval' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('What changes?').fill('Winter hours');
    await dialog.getByRole('button', { name: 'Ask for approval' }).click();
    await page.getByRole('heading', { name: 'Approval: Winter hours' }).waitFor();
    await page.getByText('You asked for it, so somebody else decides.').waitFor();
    expect(await page.getByRole('button', { name: 'Approve', exact: true }).count()).to.equal(0);
    const address = page.url();

    await makeMember(stage, 'fionn', { sites: { skerrywick: 'publish' } });
    await stranger(async (own) => {
      await own.goto(address);
      await own.getByLabel('User name').fill('fionn');
      await own.getByLabel('Password').fill(PASSWORD);
      await own.getByRole('button', { name: 'Sign in', exact: true }).click();
      await own.getByText('<!-- winter hours -->').first().waitFor();
      await own.getByRole('button', { name: 'Decline' }).click();
      await own.getByText('Say in a few words why not.').waitFor();
      await own.getByLabel('What should they know?').fill('Looks right');
      await own.getByRole('button', { name: 'Approve', exact: true }).click();
      await own.getByText('Approved by fionn').waitFor();
    });

    await page.goto('/sites/skerrywick/strip');
    await page.getByText('Approved by fionn.').waitFor();
    await page.getByRole('button', { name: 'Publish…' }).click();
    // What was said of it stands there already.
    expect(await dialog.getByLabel('What does this change?', { exact: false }).first().inputValue()).to.equal(
      'Winter hours',
    );
    const why = dialog.getByLabel('Why publish', { exact: false });
    if ((await why.count()) > 0) await why.fill('The demo has errors on purpose');
    await dialog.getByRole('button', { name: /^Publish/ }).click();
    await dialog.waitFor({ state: 'detached' });
    await page.goto('/sites/skerrywick/releases');
    await page.getByRole('region', { name: 'Approvals' }).getByText('published').waitFor();
  });

  it('are void once the draft changes', async () => {
    await stage.client.call('setApprovalRule', { params, body: { isNeeded: true } });
    await edit('first');
    const body = { message: 'Something' };
    const { data } = await stage.client.call('askApproval', { params, ifMatch: '*', body });
    await edit('second');
    await page.goto(`/sites/skerrywick/approvals/${data.id}`);
    await page.getByText('The draft has changed since it was asked for').waitFor();
    expect(await page.getByRole('button', { name: 'Decline' }).count()).to.equal(0);
    await page.getByRole('link', { name: 'To the draft' }).click();
    await page.getByRole('button', { name: 'Ask for approval' }).waitFor();
  });

  it('are lent by a client with a link and no account', async () => {
    await edit('third');
    const body = { message: 'New greeting' };
    const { data } = await stage.client.call('askApproval', { params, ifMatch: '*', body });
    await page.goto(`/sites/skerrywick/approvals/${data.id}`);
    await page.getByRole('button', { name: 'Let a client approve…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Who is it for?').fill('Nell');
    await dialog.getByRole('button', { name: 'Make the link' }).click();
    await dialog.getByText('Send Nell this link', { exact: false }).waitFor();
    const link = (await dialog.locator('code').textContent())!;
    await stranger(async (own) => {
      await own.goto(link);
      await own.getByRole('heading', { name: 'Is this right for Skerrywick Ferries?' }).waitFor();
      await own.getByText('Nell, admin asks you to approve a change: “New greeting”').waitFor();
      expect(await own.getByRole('link').count(), 'nothing leads further in').to.equal(0);
      await own.getByLabel('What should they know?').fill('Please greet in Irish, too');
      await own.getByRole('button', { name: 'Decline' }).click();
      await own.getByText('Thank you. You have declined it', { exact: false }).waitFor();
      await own.goto('/approval#nothing-of-the-kind');
      await own.getByRole('heading', { name: 'This link no longer works' }).waitFor();
    });
    await page.reload();
    await page.getByText('Declined by Nell (link of admin)').waitFor();
    await page.getByText('“Please greet in Irish, too”').waitFor();
  });
});
