import { expect } from 'chai';
import type { BrowserContext, CDPSession, Page } from 'playwright-core';
import { eventually } from '../support/http.js';
import { useStageAndBrowser } from '../support/hooks.js';
import { ADMIN } from '../support/stage.js';

describe('passkeys in the console', function () {
  this.timeout(120_000);
  const started = useStageAndBrowser({ hasDemo: false });
  let context: BrowserContext;
  let page: Page;
  let device: CDPSession;
  let authenticatorId: string;

  beforeEach(async () => {
    context = await started().browser.newContext({ baseURL: started().stage.server, locale: 'en-GB' });
    page = await context.newPage();
    device = await context.newCDPSession(page);
    await device.send('WebAuthn.enable');
    ({ authenticatorId } = await device.send('WebAuthn.addVirtualAuthenticator', {
      options: {
        protocol: 'ctap2',
        transport: 'internal',
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    }));
    await page.goto('/');
    await page.getByLabel('User name').fill(ADMIN.login);
    await page.getByLabel('Password').fill(ADMIN.password);
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
  });
  afterEach(() => context.close());

  const signOut = async (): Promise<void> => {
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Sign out' }).click();
    await page.getByRole('button', { name: 'Sign in with a passkey' }).waitFor();
  };

  async function addPasskey(name: string): Promise<void> {
    await page.goto('/account');
    const section = page.getByRole('region', { name: 'Passkeys' });
    await section.getByLabel('Where is it?').fill(name);
    await section.getByRole('button', { name: 'Add a passkey' }).click();
    await section.getByText(name, { exact: true }).waitFor();
  }

  it('sign somebody in without a password, until they are removed', async () => {
    await addPasskey('Office laptop');
    const { credentials } = await device.send('WebAuthn.getCredentials', { authenticatorId });
    expect(credentials.map(({ rpId }) => rpId)).to.deep.equal(['localhost']);
    await signOut();
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    await page.goto('/account');
    const section = page.getByRole('region', { name: 'Passkeys' });
    await section.getByText('last used').waitFor();
    await section.getByRole('button', { name: 'Remove the passkey “Office laptop”' }).click();
    await eventually(async () =>
      expect(await section.getByText('Office laptop', { exact: true }).count()).to.equal(0),
    );
    await signOut();
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
    await page.getByText('This passkey does not belong to anybody here', { exact: false }).waitFor();
  });

  it('take what a browser signed once, and for nobody else', async () => {
    await addPasskey('Phone');
    await signOut();
    const asked = page.waitForRequest('**/api/v1/sign-in/passkey');
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
    const body = (await asked).postData()!;
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
    const send = (data: string, origin: string) =>
      context.request.post('/api/v1/sign-in/passkey', {
        data,
        headers: { 'content-type': 'application/json', origin },
      });
    expect((await send(body, new URL(page.url()).origin)).status()).to.equal(401);

    // A signature of another challenge, or of another address, is none.
    const asking = await context.request.post('/api/v1/sign-in/passkey/options');
    const fresh = (await asking.json()) as { state: string };
    const swapped = JSON.stringify({
      ...(JSON.parse(body) as object),
      state: fresh.state,
    });
    expect((await send(swapped, new URL(page.url()).origin)).status()).to.equal(401);
    const garbled = JSON.stringify({ ...(JSON.parse(body) as object), state: 'AAAA' });
    expect((await send(garbled, new URL(page.url()).origin)).status()).to.equal(401);
  });

  it('are not made where whoever sits there does not prove who they are', async () => {
    await device.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified: false });
    await page.goto('/account');
    const section = page.getByRole('region', { name: 'Passkeys' });
    await section.getByRole('button', { name: 'Add a passkey' }).waitFor();
    await section.getByLabel('Where is it?').fill('Stranger');
    await section.getByRole('button', { name: 'Add a passkey' }).click();
    await section.getByText('No passkey was made.', { exact: false }).waitFor();
    expect(await section.getByText('Stranger', { exact: true }).count()).to.equal(0);
  });
});
