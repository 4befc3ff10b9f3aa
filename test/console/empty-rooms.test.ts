import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { useConsole } from '../support/hooks.js';

/** What somebody sees who has just begun: each room says what belongs there, and how to get it. */
describe('an installation with nothing in it', function () {
  this.timeout(120_000);
  const started = useConsole({ isWhole: true, hasDemo: false });
  let page: Page;
  before(async () => {
    const { stage } = started();
    await stage.client.call('createSite', {
      body: {
        name: 'Tide Mill',
        key: 'tide-mill',
        hosts: [{ host: 'mill.localhost', environment: 'live', origin: 'http://127.0.0.1:9' }],
      },
    });
  });
  beforeEach(() => ({ page } = started()));

  it('lets in whoever looks for the sign-in at an address of its own', async () => {
    await page.goto('/sign-in');
    await page.getByRole('heading', { level: 1, name: 'Sites' }).waitFor();
  });

  it('leads from the empty page strip to the first steps, in their order', async () => {
    await page.goto('/sites/tide-mill/strip');
    await page.getByText('No snippets yet').waitFor();
    await page.getByRole('link', { name: 'First steps for this site' }).click();
    await page.getByRole('heading', { name: 'A first look at Tide Mill' }).waitFor();
    await page.getByRole('region', { name: 'Publish' }).waitFor();
    const steps = await page.getByRole('main').locator('ol > li h2').allTextContents();
    expect(steps).to.deep.equal([
      'Which way suits this site?',
      'What to do now',
      'Add the first snippet',
      'Publish',
    ]);
    expect(await page.getByRole('img', { name: 'Done' }).count()).to.equal(0);
    await page.getByRole('button', { name: /The ways compared/ }).click();
    await page.getByRole('columnheader', { name: 'the gateway' }).waitFor();
  });

  it('promises nothing that cannot be yet', async () => {
    const rooms: readonly (readonly [room: string, says: string, leads: string])[] = [
      ['findings', 'No snippets to check yet', 'Add a snippet'],
      ['check', 'Nothing is published yet', 'Open the draft'],
      ['releases', 'Nothing published yet', 'Open the draft'],
    ];
    for (const [room, says, leads] of rooms) {
      await page.goto(`/sites/tide-mill/${room}`);
      await page.getByText(says, { exact: true }).waitFor();
      await page.getByRole('main').getByRole('link', { name: leads }).last().waitFor();
    }
    await page.goto('/sites/tide-mill/check/browser');
    await page.getByText('Nothing is published yet.', { exact: false }).waitFor();
    expect(await page.getByRole('button', { name: 'Visit the pages' }).count()).to.equal(0);
    await page.getByRole('button', { name: 'Rehearse the draft' }).waitFor();
  });

  it('asks which snippet does not show before it looks', async () => {
    await page.goto('/sites/tide-mill/check/why');
    const ask = page.getByRole('button', { name: 'Find out' });
    await ask.waitFor();
    expect(await ask.isDisabled()).to.equal(true);
    await page.getByLabel('What doesn’t show?').selectOption('Something else: this page looks wrong');
    expect(await ask.isDisabled()).to.equal(false);
  });

  it('ticks off what is done', async () => {
    const { stage } = started();
    const params = { site: 'tide-mill' };
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Notice', parts: [{ placement: 'body-end', code: '<p>Open on Sundays</p>' }] },
    });
    await page.goto('/sites/tide-mill/start');
    await page.getByRole('link', { name: 'Add another' }).waitFor();
    expect(await page.getByRole('img', { name: 'Done' }).count()).to.equal(1);
  });
});
