import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { api, eventually } from '../support/http.js';
import { useConsole } from '../support/hooks.js';
import { ADMIN, type Stage } from '../support/stage.js';

describe('somebody’s own account in the console', function () {
  this.timeout(120_000);
  const started = useConsole({ hasDemo: false });
  let page: Page;
  let stage: Stage;
  beforeEach(() => ({ page, stage } = started()));

  const openAccount = async (): Promise<void> => {
    await page.goto('/');
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Your account' }).click();
    await page.getByRole('heading', { level: 1, name: 'Your account' }).waitFor();
  };

  it('shows where somebody is signed in, and ends what they do not know', async () => {
    const opened = await api(stage.server, undefined, 'POST', '/sign-in', ADMIN);
    const cookie = opened.headers['set-cookie']![0]!.split(';')[0]!;
    const isIn = async () =>
      (await api(stage.server, undefined, 'GET', '/session', undefined, { cookie })).status === 200;
    await openAccount();
    const sessions = page.getByRole('region', { name: 'Where you are signed in' });
    await sessions.getByText('This browser').waitFor();
    expect(await isIn()).to.equal(true);
    await sessions
      .getByRole('button', { name: /^Sign out the session/ })
      .first()
      .click();
    await page.getByText('Signed out there').first().waitFor();
    await eventually(async () => expect(await isIn()).to.equal(false));
    await api(stage.server, undefined, 'POST', '/sign-in', ADMIN);
    await page.reload();
    await sessions.getByRole('button', { name: 'Sign out everywhere else' }).click();
    await eventually(async () => expect(await sessions.getByRole('listitem').count()).to.equal(1));
    await page.reload();
    await sessions.getByText('This browser').waitFor();
  });

  it('makes a token that is shown once, and asks before it revokes it', async () => {
    await openAccount();
    const tokens = page.getByRole('region', { name: 'Tokens' });
    await tokens.getByLabel('What it is for').fill('Build pipeline');
    await tokens.getByLabel('Works for').selectOption('30 days');
    await tokens.getByRole('button', { name: 'Create a token' }).click();
    const secret = (await tokens.locator('code').textContent())!;
    expect((await api(stage.server, secret, 'GET', '/sites')).status).to.equal(200);
    await page.reload();
    await tokens.getByText('Build pipeline', { exact: true }).waitFor();
    expect(await page.getByText(secret).count()).to.equal(0);
    await tokens.getByRole('button', { name: 'Revoke the token “Build pipeline”' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('You cannot undo this.', { exact: false }).waitFor();
    await dialog.getByRole('button', { name: 'Revoke' }).click();
    await eventually(async () =>
      expect(await tokens.getByText('Build pipeline', { exact: true }).count()).to.equal(0),
    );
    expect((await api(stage.server, secret, 'GET', '/sites')).status).to.equal(401);
  });

  it('changes the password, says what is wrong with the old one, and goes on', async () => {
    await openAccount();
    const password = page.getByRole('region', { name: 'Password' });
    const fill = async (current: string, chosen: string) => {
      await password.getByLabel('Current password').fill(current);
      await password.getByLabel('New password').fill(chosen);
      await password.getByLabel('Repeat password').fill(chosen);
      await password.getByRole('button', { name: 'Change password' }).click();
    };
    await fill('not the one', 'another long password');
    await password.getByText('This is not your current password.').waitFor();
    await fill(ADMIN.password, ADMIN.password);
    await password.getByText('Choose a password other than the current one.').waitFor();
    await fill(ADMIN.password, 'another long password');
    await page.getByText('Password changed').first().waitFor();
    await fill('another long password', ADMIN.password);
    await eventually(async () =>
      expect((await api(stage.server, undefined, 'POST', '/sign-in', ADMIN)).status).to.equal(200),
    );
    started().problems.splice(0); // the browser notes the 422
  });
});
