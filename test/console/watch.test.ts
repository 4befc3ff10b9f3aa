import { createServer, type Server } from 'node:http';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser } from '../support/browser.js';
import { eventually } from '../support/http.js';
import { listen } from '../support/stage.js';
import { SITE, plain, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

describe('watching in the console', function () {
  this.timeout(120_000);
  let site: VisitedStage;
  let browser: Browser;
  let receiver: { readonly server: Server; readonly port: number };
  let told = 0;

  before(async () => {
    [site, browser] = await Promise.all([startVisitedStage(), startBrowser()]);
    receiver = await listen(
      createServer((_, response) => {
        told++;
        response.writeHead(204).end();
      }),
    );
    site.answers = { '/': '<!doctype html><title>Quay</title><p>Quay' };
    await site.publish([
      plain('counter', '<script>window.counted = 1;</script>', { name: 'Counter' }),
      plain('clock', '<script>nowhere();</script>', { name: 'Clock' }),
    ]);
  });

  after(async () => {
    await browser.close();
    await site.close();
    receiver.server.close();
  });

  it('begins with what to do, and then has a line for each snippet with a mark for each round', async () => {
    const { page, context, problems } = await openConsole(browser, site.stage);
    await page.goto(`/sites/${SITE}/check`);
    await page.getByRole('link', { name: 'Over time' }).click();
    await page.getByText('No visits yet').waitFor();
    await page.getByRole('link', { name: 'Visit the pages now' }).waitFor();
    await site.verify();
    await site.verify();
    await eventually(async () => {
      const { data } = await site.stage.client.call('listVisitRounds', { params: { site: SITE }, query: {} });
      expect(data.items.map(({ isWell }) => isWell)).to.deep.equal([false, false]);
    });
    await page.reload();
    const line = (name: string) => page.getByRole('row').filter({ hasText: name });
    await line('Clock').getByText('nothing on this page defines it').waitFor();
    expect(
      await line('Counter')
        .getByRole('link', { name: /^Works, round/ })
        .count(),
    ).to.equal(2);
    await line('Clock')
      .getByRole('link', { name: /^No longer works, round 2/ })
      .click();
    await page.getByRole('heading', { name: 'How far each snippet got' }).waitFor();
    expect(page.url()).to.include('/check/browser/2');
    expect(problems).to.deep.equal([]);
    await context.close();
  });

  it('keeps when to look and what then', async () => {
    const { page, context } = await openConsole(browser, site.stage);
    await page.goto(`/sites/${SITE}/check/watch`);
    await page.getByLabel('Visit automatically').selectOption('Every week');
    await page.getByLabel('At', { exact: true }).fill('07:30');
    await page.getByLabel('After a release').selectOption({
      label: 'Visit the pages, and restore the previous release if something stopped working',
    });
    await page.getByText('Only after a second look').waitFor();
    await page.getByLabel('Publish only after a rehearsal that found nothing wrong').click();
    await page.getByText('This installation cannot send mail yet').waitFor();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Saved.').first().waitFor();
    const { data } = await site.stage.client.call('showWatch', { params: { site: SITE } });
    expect(data).to.deep.include({ cron: '30 7 * * 1', afterPublishing: 'put-back', needsRehearsal: true });
    await page.reload();
    await page.getByText(/Next:/).waitFor();
    expect(await page.getByLabel('Visit automatically').inputValue()).to.equal('weekly');
    await context.close();
  });

  it('adds a program that is told, shows its secret once, and whether a test arrived', async () => {
    const { page, context } = await openConsole(browser, site.stage);
    await page.goto(`/sites/${SITE}/check/watch`);
    const url = `http://127.0.0.1:${receiver.port}/told`;
    await page.getByText('Nobody yet.').waitFor();
    await page.getByLabel('Address of the program').fill(url);
    await page.getByRole('button', { name: 'Add webhook' }).click();
    await page.getByText(/^whsec_/).waitFor();
    await page.getByRole('button', { name: 'Done' }).click();
    await page.getByRole('button', { name: 'Send a test' }).click();
    await page.getByText('Arrived').waitFor({ timeout: 20_000 });
    expect(told).to.equal(1);
    await page.getByRole('button', { name: `Remove the webhook to ${url}` }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
    await page.getByText('Nobody yet.').waitFor();
    expect(await page.getByText(/^whsec_/).count()).to.equal(0);
    await context.close();
  });

  it('puts what staging serves live, as it is', async () => {
    const params = { site: SITE };
    const { data } = await site.stage.client.call('showWatch', { params });
    expect(data.needsRehearsal).to.equal(true);
    const { etag } = await site.stage.client.call('showWatch', { params });
    await site.stage.client.call('setWatch', { params, ifMatch: etag, body: { afterPublishing: 'nothing' } });
    await site.draft([plain('counter', '<script>window.counted = 2;</script>', { name: 'Counter' })]);
    const draft = await site.stage.client.call('showDraft', { params });
    await site.stage.client.call('publish', {
      params,
      ifMatch: draft.etag,
      body: { message: 'Tried first', environments: ['staging'] },
    });
    const { page, context } = await openConsole(browser, site.stage);
    await page.goto(`/sites/${SITE}/releases`);
    await page.getByRole('button', { name: 'Make live…' }).click();
    await page.getByText('Exactly what was tested on staging').waitFor();
    await page.getByRole('button', { name: 'Make it live' }).click();
    await page.getByText('Release 2 is live', { exact: true }).waitFor();
    const live = await site.stage.client.call('showEnvironment', {
      params: { ...params, environment: 'live' },
    });
    expect(live.data.release).to.equal(2);
    await context.close();
  });
});
