import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { openConsole, DESKTOP } from '../support/browser.js';
import { eventually } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import { PASSWORD, makeMember, secretOf } from '../support/members.js';
import type { Stage } from '../support/stage.js';

describe('members in the console', function () {
  this.timeout(180_000);
  const started = useConsole();
  let page: Page;
  let stage: Stage;
  beforeEach(() => ({ page, stage } = started()));

  /** A page of somebody who is not signed in. */
  async function stranger<T>(visit: (page: Page) => Promise<T>): Promise<T> {
    const { context, page: own } = await openConsole(started().browser, stage, DESKTOP, false);
    try {
      return await visit(own);
    } finally {
      await context.close();
    }
  }

  async function signIn(own: Page, login: string): Promise<void> {
    await own.goto('/');
    await own.getByLabel('User name').fill(login);
    await own.getByLabel('Password').fill(PASSWORD);
    await own.getByRole('button', { name: 'Sign in', exact: true }).click();
    await own.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
  }

  it('come by a link that somebody is sent, choose a password and are in', async () => {
    await page.goto('/');
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Members' }).click();
    await page.getByRole('button', { name: 'Invite somebody…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Who is it for?').fill('Fionn Oar');
    await dialog.getByLabel('Skerrywick Ferries').check();
    await dialog.getByRole('button', { name: 'Make the link' }).click();
    await dialog.getByText('Send Fionn Oar this link').waitFor();
    const link = (await dialog.locator('code').textContent())!;
    await dialog.getByRole('button', { name: 'Done' }).click();
    const open = page.getByRole('region', { name: 'Open invitations' });
    await open.getByText('Skerrywick Ferries: can edit').waitFor();

    await stranger(async (own) => {
      await own.goto(link);
      await own.getByText('edit the draft of Skerrywick Ferries').waitFor();
      await own.getByLabel('User name').fill('admin');
      await own.getByLabel('New password').fill(PASSWORD);
      await own.getByLabel('Repeat password').fill(PASSWORD);
      await own.getByRole('button', { name: 'Join' }).click();
      await own.getByText('This user name is taken.').waitFor();
      await own.getByLabel('User name').fill('fionn');
      await own.getByRole('button', { name: 'Join' }).click();
      await own.getByRole('link', { name: /Skerrywick Ferries/ }).waitFor();
      expect(await own.getByRole('button', { name: 'Add a site' }).count()).to.equal(0);
      await own.goto(link);
      await own.getByRole('heading', { name: 'This link no longer works' }).waitFor();
    });

    await page.reload();
    const people = page.getByRole('region', { name: 'People' });
    await people.getByText('Skerrywick Ferries: can edit').waitFor();
    expect(await open.count()).to.equal(0);
    await people.getByLabel('Role of Fionn Oar').selectOption('Can view');
    await page.getByText('Saved').first().waitFor();
    await eventually(async () => {
      const { items } = (await stage.client.call('listMembers', {})).data;
      expect(items.find(({ login }) => login === 'fionn')!.role).to.equal('view');
    });
    await people.getByRole('button', { name: 'Remove Fionn Oar' }).click();
    await page
      .getByRole('dialog')
      .getByText('What they did stays in the activity.', { exact: false })
      .waitFor();
    await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
    await eventually(async () => expect(await people.getByText('Fionn Oar').count()).to.equal(0));
  });

  it('get a one-time password where theirs is lost', async () => {
    await makeMember(stage, 'isle', { sites: { skerrywick: 'view' } });
    await page.goto('/members');
    await page.getByRole('button', { name: 'New password for Somebody isle' }).click();
    await page.getByRole('button', { name: 'Give a password' }).click();
    const password = (await page.getByRole('dialog').locator('code').textContent())!;
    const { data } = await stage.client.call('signIn', { body: { login: 'isle', password } });
    expect(data.member.mustChangePassword).to.equal(true);
  });

  it('are told what they may not, before they try', async () => {
    await makeMember(stage, 'looker', { sites: { skerrywick: 'view' } });
    await makeMember(stage, 'editor', { sites: { skerrywick: 'edit' } });
    await stranger(async (own) => {
      await signIn(own, 'looker');
      await own.goto('/sites/skerrywick/strip');
      await own.getByText('You can look at this site, but not change it.').waitFor();
      expect(await own.getByRole('link', { name: 'Add a snippet' }).count()).to.equal(0);
      const toggles = own.getByRole('switch');
      await toggles.first().waitFor();
      for (const toggle of await toggles.all()) expect(await toggle.isDisabled()).to.equal(true);
      expect(await own.getByRole('button', { name: /^Move / }).count()).to.equal(0);
      await own.goto('/sites/skerrywick/settings');
      const save = own.getByRole('button', { name: 'Save' });
      await own.getByLabel('Name', { exact: true }).fill('Mine');
      expect(await save.isDisabled()).to.equal(true);
      expect(await save.getAttribute('title')).to.equal('This takes the right to edit the site.');
    });
    await stranger(async (own) => {
      await signIn(own, 'editor');
      await own.goto('/sites/skerrywick/strip');
      await own.getByText('You can change the draft. Somebody else publishes it.').waitFor();
      await own.getByRole('link', { name: 'Who can?' }).click();
      await own.getByText('owns all sites').waitFor();
      expect(await own.getByRole('button', { name: 'Invite somebody…' }).count()).to.equal(0);
    });
  });

  it('of a site are changed by its owners, and join with what they have', async () => {
    await makeMember(stage, 'owner', { sites: { skerrywick: 'own' } });
    await makeMember(stage, 'helper', { sites: { skerrywick: 'edit' } });
    await stage.client.call('createSite', { body: { key: 'quay', name: 'The quay' } });
    const { data: invitation } = await stage.client.call('createInvitation', {
      body: { name: 'Owner', sites: [{ site: 'quay', role: 'publish' }] },
    });
    await stranger(async (own) => {
      await signIn(own, 'owner');
      await own.goto('/sites/skerrywick/settings/people');
      await own.getByLabel('Role of Somebody helper').selectOption('Can publish');
      await own.getByText('Saved').first().waitFor();
      await own.getByRole('button', { name: 'Remove Somebody helper' }).click();
      await own.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
      await eventually(async () => expect(await own.getByText('Somebody helper').count()).to.equal(0));
      await own.goto(`/invitation#${secretOf(invitation)}`);
      await own.getByText('edit and publish The quay').waitFor();
      await own.getByRole('button', { name: 'Join as owner' }).click();
      await own.getByRole('link', { name: /The quay/ }).waitFor();
    });
  });
});
