import { expect } from 'chai';
import type { Browser, Page } from 'playwright-core';
import { useStageAndBrowser } from '../support/hooks.js';
import { eventually } from '../support/http.js';
import type { Stage } from '../support/stage.js';

describe('the demo with nothing but the one line', function () {
  this.timeout(180_000);
  const started = useStageAndBrowser();
  let stage: Stage;
  let browser: Browser;
  before(() => ({ stage, browser } = started()));

  interface Document {
    /** Elements of the head, each by itself: where they stand there depends on the line. */
    readonly head: readonly string[];
    readonly body: string;
  }

  async function documentOf(page: Page, address: string): Promise<Document> {
    await page.goto(address, { waitUntil: 'load' });
    await page.waitForTimeout(60);
    return page.evaluate(() => {
      document.querySelectorAll('script[src*="/one/"]').forEach((line) => line.remove());
      document.normalize();
      const texts = [document.body.innerHTML, ...[...document.head.children].map((one) => one.outerHTML)];
      const [body, ...head] = texts.map((text) => text.replace(/\s+/g, ' ').replace(/> </g, '><').trim());
      return { head: head.sort(), body: body! };
    });
  }

  it('has on every page the elements that the gateway gives it', async () => {
    const { data: known } = await stage.client.call('listPages', {
      params: { site: 'skerrywick' },
      query: {},
    });
    const context = await browser.newContext();
    // What providers' files do to the page is theirs; who comes first to do it is not told here.
    await context.route(
      (url) => url.port === String(stage.providerPort),
      (route) => route.abort(),
    );
    const page = await context.newPage();
    for (const path of known.paths) {
      // Where a page leaves end tags out, the end of its text is within what is open, the end of the body is not.
      const isOpenEnded = path === '/contact';
      const through = await documentOf(page, `http://skerrywick.localhost:${stage.gatewayPort}${path}`);
      for (const host of ['line', 'async-line']) {
        const own = await documentOf(page, `http://${host}.skerrywick.localhost:${stage.sitePort}${path}`);
        // Its policy lets in scripts of its own host only.
        if (path === '/booking/confirmation') expect(own.body, path).not.to.include('formhatch');
        else if (isOpenEnded)
          expect(own.body.replace('</main>', '')).to.equal(through.body.replace('</main>', ''));
        else expect(own, `${host} ${path}`).to.deep.equal(through);
      }
    }
    await context.close();
  });

  it('does what visitors see and providers count', async () => {
    const page = await browser.newPage();
    await page.goto(`http://line.skerrywick.localhost:${stage.sitePort}/booking`);
    await page.getByText('See free places').waitFor();
    await page.close();
  });

  it('is changed by publishing', async () => {
    const params = { site: 'skerrywick' };
    await stage.client.call('createSnippet', {
      params,
      body: {
        name: 'Notice',
        parts: [{ placement: 'body-end', code: '<p id="notice">No sailings today</p>' }],
      },
    });
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: 'Notice' } });
    const address = `http://async-line.skerrywick.localhost:${stage.sitePort}/fares`;
    // A browser that has loaded the page keeps what the line leads to for a minute: each look is another visitor’s.
    await eventually(async () => {
      const page = await browser.newPage();
      await page.goto(address);
      await page.waitForTimeout(100);
      const notices = await page.locator('#notice').allInnerTexts();
      await page.close();
      expect(notices).to.deep.equal(['No sailings today']);
    }, 10_000);
  });
});
