import { expect } from 'chai';
import type { Page } from 'playwright-core';
import pg from 'pg';
import { codeAt, nextCode } from '../support/authenticator.js';
import { DESKTOP, openConsole } from '../support/browser.js';
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
    await eventually(async () =>
      expect((await api(stage.server, secret, 'GET', '/sites')).status).to.equal(401),
    );
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

  it('turns on a code from a phone, shows recovery codes once, and asks for a code when signing in', async () => {
    await openAccount();
    const section = page.getByRole('region', { name: 'Code from your phone' });
    await section.getByRole('button', { name: 'Set up a code…' }).click();
    await section.getByRole('img', { name: 'QR code for your authenticator app' }).waitFor();
    const secret = (await section.locator('code').textContent())!.replaceAll(' ', '');
    await section.getByLabel('Code from the app').fill(codeAt(secret));
    await section.getByRole('button', { name: 'Turn it on' }).click();
    await section.getByText('Keep these recovery codes').waitFor();
    const recovery = (await section.getByRole('listitem').first().textContent())!;
    await section.getByRole('button', { name: 'I have kept them' }).click();
    await section.getByText('10 recovery codes are left.', { exact: false }).waitFor();

    const { context, page: own, problems } = await openConsole(started().browser, stage, DESKTOP, false);
    const signIn = async (code: string): Promise<void> => {
      await own.goto('/');
      await own.getByLabel('User name').fill(ADMIN.login);
      await own.getByLabel('Password').fill(ADMIN.password);
      await own.getByRole('button', { name: 'Sign in', exact: true }).click();
      await own.getByLabel('Code').fill(code);
      await own.getByRole('button', { name: 'Sign in', exact: true }).click();
    };
    await signIn('123 456');
    await own.getByText('This is not the code', { exact: false }).waitFor();
    await signIn(nextCode(secret));
    await own.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    await context.clearCookies();
    await signIn(recovery);
    await own.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    // What the browser says of answers with 401 is no fault of the console's.
    expect(problems.filter((text) => !text.includes('401'))).to.deep.equal([]);
    await context.close();

    await section.getByRole('button', { name: 'Turn it off' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Turn it off' }).click();
    await section.getByRole('button', { name: 'Set up a code…' }).waitFor();
  });

  it('asks for the password again where something matters too much, and goes on', async () => {
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    // The browser writes down the refusal that makes the console ask.
    const { context, page: own } = await openConsole(started().browser, stage);
    await database.query(`update credential set confirmed_at = null`);
    await database.end();
    await own.goto('/account');
    const tokens = own.getByRole('region', { name: 'Tokens' });
    await tokens.getByLabel('What it is for').fill('Confirmed');
    await tokens.getByRole('button', { name: 'Create a token' }).click();
    const dialog = own.getByRole('dialog', { name: 'Confirm that it is you' });
    await dialog.getByLabel('Your password').fill(ADMIN.password);
    await dialog.getByRole('button', { name: 'Confirm' }).click();
    await tokens.getByText('The token “Confirmed”').waitFor();
    await context.close();
  });
});
