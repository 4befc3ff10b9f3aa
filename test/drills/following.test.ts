import { expect } from 'chai';
import type { Browser, Page } from 'playwright-core';
import type { LiveEvent } from '@pragmatica/contract';
import { startBrowser } from '../support/browser.js';
import { eventually } from '../support/http.js';
import { Installation } from '../support/installation.js';
import { ADMIN } from '../support/stage.js';
import { ownSite, type OwnSite } from '../support/surveys.js';

const params = { site: 'mill' };

describe('drills: following and verifying while something dies', function () {
  this.timeout(180_000);
  let installation: Installation;
  let origin: OwnSite;
  let browser: Browser;
  let page: Page;
  /** Whether the site lets whoever asks wait, and whether somebody has asked meanwhile. */
  let [isHeld, isAsked] = [false, false];

  before(async () => {
    origin = await ownSite({
      '/': (_, response) => {
        if (isHeld) isAsked = true;
        else
          response
            .writeHead(200, { 'content-type': 'text/html' })
            .end('<title>Tide Mill</title><p>Flour</p>');
      },
    });
    installation = await Installation.start(['service', 'gateway']);
    const address = `http://localhost:${origin.port}`;
    const hosts = [{ host: 'mill.localhost', environment: 'live' as const, origin: address, address }];
    await installation.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    await add('First');
    await installation.client.call('publish', { params, ifMatch: '*', body: { message: 'First' } });
    browser = await startBrowser();
    const context = await browser.newContext({ baseURL: installation.server, locale: 'en-GB' });
    await context.request.post(`${installation.server}/api/v1/sign-in`, { data: ADMIN });
    page = await context.newPage();
    page.setDefaultTimeout(90_000);
  });
  after(async () => {
    await browser.close();
    await installation.close();
    origin.close();
  });

  const add = (name: string) =>
    installation.client.call('createSnippet', {
      params,
      body: { name, parts: [{ placement: 'head-end', code: `<meta name="${name}" content="1">` }] },
    });

  /** Follows the site as a program; resolves with why it ended. */
  function follow(at: string): { readonly events: LiveEvent[]; readonly ended: Promise<unknown> } {
    const events: LiveEvent[] = [];
    const run = async (): Promise<unknown> => {
      try {
        for await (const event of installation.client.stream('followSite', { params, query: { at } }))
          events.push(event);
        return 'over';
      } catch (error) {
        return error;
      }
    };
    return { events, ended: run() };
  }

  const others = () => page.getByRole('list', { name: 'Also on this site' });

  for (const part of ['service', 'database'] as const)
    it(`goes on by itself when the ${part} is back, with what happened meanwhile`, async () => {
      await page.goto('/sites/mill/snippets');
      // Somebody in another window of theirs, at the same place.
      const other = follow('snippets');
      await others().getByRole('listitem').first().waitFor();
      await add(`Before ${part}`);
      await page.getByRole('link', { name: `Before ${part}` }).waitFor();
      await installation.kill(part);
      // Who follows learns of it, and nobody is shown as there who may be gone.
      await other.ended;
      await others().waitFor({ state: 'detached' });
      await installation.start(part);
      await eventually(() => add(`After ${part}`), 20_000);
      await page.getByRole('link', { name: `After ${part}` }).waitFor();
      const later = follow('findings');
      const places = (): string[] | undefined =>
        (
          later.events.findLast(({ type }) => type === 'people') as
            Extract<LiveEvent, { type: 'people' }> | undefined
        )?.people.map(({ place }) => place);
      await eventually(() => expect(places()).to.deep.equal(['snippets']), 20_000);
      // Whoever could not say goodbye when the process died is gone half a minute later.
      await page.goto('about:blank');
      await eventually(() => expect(places()).to.deep.equal([]), 20_000);
    });

  it('ends a verification in words when the service dies, and leaves nothing behind', async () => {
    isHeld = true;
    const before: string[] = [];
    const run = async (): Promise<unknown> => {
      try {
        for await (const { type } of installation.client.stream('verify', { params, body: {} }))
          before.push(type);
        return 'over';
      } catch (error) {
        return error;
      }
    };
    const ended = run();
    await eventually(() => expect(isAsked).to.equal(true));
    await installation.kill('service');
    expect(await ended).to.be.instanceOf(Error);
    expect(before).to.deep.equal(['start']);
    isHeld = false;
    await installation.start('service');
    const events: string[] = [];
    for await (const { type } of installation.client.stream('verify', { params, body: {} }))
      events.push(type);
    expect(events.at(-1)).to.equal('done');
  });
});
