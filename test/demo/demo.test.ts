import { expect } from 'chai';
import { placementKey, uncontainedParts } from '@pragmatica/core';
import { createProviderServer, loadPages, type Received } from '@pragmatica/demo';
import type { Browser } from 'playwright-core';
import { useStageAndBrowser } from '../support/hooks.js';
import { eventually, send } from '../support/http.js';
import { listen, type Stage } from '../support/stage.js';

describe('the demo site', () => {
  const pages = loadPages(4791);
  const html = (path: string): string => pages.get(path)!.body.toString('latin1');

  it('has about twenty pages with a title each', () => {
    expect(pages.size).to.be.within(20, 25);
    expect(new Set([...pages.values()].map((page) => page.title)).size).to.equal(pages.size);
  });

  it('carries the usual accidents', () => {
    expect(html('/news/new-vessel'), 'a counter in the theme').to.include('tallymast.localhost');
    expect(html('/fares')).not.to.include('tallymast.localhost');
    expect(html('/contact'), 'omitted tags').not.to.match(/<(html|head|body)\b/);
    expect(pages.get('/history')!.body.includes(0xe9), 'an é in Latin-1').to.equal(true);
    expect(pages.get('/timetables/winter')!.isCompressed).to.equal(true);
    expect(pages.get('/booking/confirmation')!.headers['content-security-policy']).to.include(
      "script-src 'self'",
    );
    expect(html('/islands/outer-merrin'), 'an end tag in a comment').to.match(/<!-- .*<\/div><\/body> -->/);
  });

  it('names nobody who exists: every address in it is local', () => {
    for (const page of pages.values()) {
      for (const [, host] of page.body.toString('latin1').matchAll(/https?:\/\/([^/"' :]+)/g))
        expect(host, page.path).to.match(/(\.localhost|^www\.w3\.org)$/);
    }
  });
});

describe('the stand-in providers', () => {
  it('keep what they are told and say it again', async () => {
    const { server, port } = await listen(createProviderServer());
    const ask = (host: string, path: string) => send({ port, host, path });
    await ask('tallymast.localhost', '/tell?account=TM-1&event=visit&page=%2Ffares');
    await ask('parlanook.localhost', '/tell?account=r&event=shown&page=%2F');
    const received = JSON.parse((await ask('tallymast.localhost', '/received')).text) as Received[];
    expect(received).to.have.length(1);
    expect(received[0]).to.include({
      provider: 'tallymast',
      account: 'TM-1',
      event: 'visit',
      page: '/fares',
    });
    expect((await ask('anything.localhost', '/')).text).to.match(
      /Tallymast +counts visits +1 received, last "visit" from \/fares/,
    );
    expect((await ask('tallymast.localhost', '/count.js')).headers['content-type']).to.equal(
      'text/javascript',
    );
    expect((await ask('tallymast.localhost', '/none.js')).status).to.equal(404);
    server.close();
  });
});

describe('the demo in a browser', function () {
  this.timeout(180_000);
  const started = useStageAndBrowser();
  let stage: Stage;
  let browser: Browser;
  before(() => ({ stage, browser } = started()));

  it('uses every placement, and every part of it may be released', async () => {
    const { data } = await stage.client.call('showDraft', { params: { site: 'skerrywick' } });
    const used = new Set(
      data.snapshot.snippets.flatMap((entry) => entry.parts.map((part) => placementKey(part.placement))),
    );
    expect([...used]).to.include.members([
      'head-start',
      'head-end',
      'body-start',
      'body-end',
      'inside:#booking-widget',
    ]);
    expect(data.snapshot.snippets.length).to.be.at.least(9);
    expect(uncontainedParts(data.snapshot)).to.deep.equal([]);
  });

  it('is on every page the same document through the gateway as directly, but for the parts', async () => {
    const { data: known } = await stage.client.call('listPages', {
      params: { site: 'skerrywick' },
      query: {},
    });
    const context = await browser.newContext();
    // No script runs, so that the two documents hold what the parser made of them and nothing else.
    await context.route(/\.js/, (route) => route.abort());
    const page = await context.newPage();
    const tree = async (address: string, codes: readonly string[]): Promise<string> => {
      await page.goto(address, { waitUntil: 'domcontentloaded' });
      return page.evaluate((parts) => {
        for (const code of parts) {
          const template = document.createElement('template');
          template.innerHTML = code;
          for (const node of template.content.childNodes) {
            if (node.nodeType === Node.TEXT_NODE) continue;
            const walker = document.createTreeWalker(
              document,
              NodeFilter.SHOW_ELEMENT | NodeFilter.SHOW_COMMENT,
            );
            while (walker.nextNode()) {
              // A noscript is text in the page and elements in the template.
              const isSame =
                walker.currentNode.isEqualNode(node) ||
                (walker.currentNode as Partial<Element>).outerHTML ===
                  ((node as Partial<Element>).outerHTML ?? '');
              if (!isSame) continue;
              walker.currentNode.parentNode!.removeChild(walker.currentNode);
              break;
            }
          }
        }
        document.normalize();
        return document.documentElement.outerHTML.replace(/\s+/g, ' ').replace(/> </g, '><');
      }, codes);
    };
    for (const path of known.paths) {
      const { data: plan } = await stage.client.call('showPlan', {
        params: { site: 'skerrywick' },
        query: { path },
      });
      const through = await tree(
        `http://skerrywick.localhost:${stage.gatewayPort}${path}`,
        plan.parts.map((part) => part.code),
      );
      const direct = await tree(`http://origin.skerrywick.localhost:${stage.sitePort}${path}`, []);
      expect(through, path).to.equal(direct);
    }
    await context.close();
  });

  it('does what visitors see and providers count', async () => {
    const page = await browser.newPage();
    await page.goto(`http://skerrywick.localhost:${stage.gatewayPort}/booking`);
    await page.getByRole('button', { name: 'Ask the harbour office' }).waitFor();
    await page.getByRole('link', { name: 'See free places' }).waitFor();
    await page.getByText('May we count visits?').waitFor();
    await page.getByRole('button', { name: 'Send me news' }).waitFor();
    const received = async (provider: string): Promise<string[]> => {
      const answer = await send({
        port: stage.providerPort,
        host: `${provider}.localhost`,
        path: '/received',
      });
      return (JSON.parse(answer.text) as Received[])
        .filter((received) => received.page === '/booking')
        .map((received) => `${received.account} ${received.event}`);
    };
    await eventually(async () => {
      expect(await received('tallymast')).to.deep.equal(['TM-1887 visit']);
      expect(await received('crateline')).to.deep.equal(['CR-20-3 start']);
      expect(await received('parlanook')).to.include('harbour-office shown');
    });
    expect(await received('glintpixel'), 'nobody has agreed to adverts yet').to.deep.equal([]);
    await page.getByRole('button', { name: 'Yes' }).click();
    await page.reload();
    await eventually(async () => {
      expect(await received('glintpixel')).to.deep.equal(['GP-4417 booking-seen']);
    });
    await page.goto(`http://skerrywick.localhost:${stage.gatewayPort}/news`);
    await eventually(async () => {
      const answer = await send({ port: stage.providerPort, host: 'tallymast.localhost', path: '/received' });
      expect(
        (JSON.parse(answer.text) as Received[]).filter((received) => received.page === '/news'),
        'counted twice',
      ).to.have.length(2);
    });
    await page.close();
  });
});
