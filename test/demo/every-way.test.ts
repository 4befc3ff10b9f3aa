import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { WAYS_SITE, WAY_HOSTS, wayHost } from '@pragmatica/demo';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { useStageAndBrowser } from '../support/hooks.js';
import { eventually, send } from '../support/http.js';
import { startStageWays, type StartedWays } from '../support/ways.js';

describe('the same plan by every way', function () {
  this.timeout(240_000);
  const started = useStageAndBrowser({ isWhole: true });
  let ways: StartedWays;
  const params = { site: WAYS_SITE };
  before(async () => (ways = await startStageWays(started().stage)));
  after(() => ways.close());

  const pageOf = async (delivery: Parameters<typeof wayHost>[0], path: string): Promise<string> => {
    const answer = await send({ port: ways.portOf(delivery), host: wayHost(delivery), path });
    expect(answer.status, `${delivery} ${path}`).to.equal(200);
    const isPacked = answer.headers['content-encoding'] === 'gzip';
    return (isPacked ? gunzipSync(answer.body) : answer.body).toString('latin1');
  };
  const paths = async (): Promise<readonly string[]> =>
    (await started().stage.client.call('listPages', { params: { site: 'skerrywick' }, query: {} })).data
      .paths;

  it('is the same page, byte for byte, wherever parts are put into it before it is sent', async () => {
    for (const path of await paths()) {
      const through = await pageOf('gateway', path);
      for (const delivery of ['middleware', 'fragments', 'folder'] as const)
        expect(await pageOf(delivery, path), `${delivery} ${path}`).to.equal(through);
    }
  });

  interface Seen {
    /** Elements of the head, each by itself: where they stand there depends on the way. */
    readonly head: readonly string[];
    readonly body: readonly string[];
  }

  /** Elements as the browser has them when all is done, without what is a way’s own. */
  async function see(page: Page, delivery: Parameters<typeof wayHost>[0], path: string): Promise<Seen> {
    await page.goto(ways.addressOf(delivery) + path, { waitUntil: 'load' });
    await page.waitForTimeout(80);
    return page.evaluate(() => {
      document.querySelectorAll('script[src*="/one/"]').forEach((line) => line.remove());
      // What decides in a pasted block whether its code runs.
      document.querySelectorAll('script').forEach((one) => {
        if (one.textContent.includes('userAgentData:')) one.remove();
      });
      const [head, body] = [document.head, document.body].map((root) =>
        [...root.querySelectorAll('*')].map((element) => {
          const attributes = [...element.attributes].map(({ name, value }) => `${name}=${value}`).sort();
          const text = element.children.length === 0 ? element.textContent.replace(/\s+/g, ' ').trim() : '';
          return [element.localName, ...attributes, text].join(' ');
        }),
      );
      return { head: head!.sort(), body: body! };
    });
  }

  it('is the same document in a browser, element by element, but for what the table admits', async () => {
    const { browser, stage } = started();
    const context = await browser.newContext();
    // What providers' files do to the page is theirs; who comes first to do it is not told here.
    await context.route(
      (url) => url.port === String(stage.providerPort),
      (route) => route.abort(),
    );
    const page = await context.newPage();
    for (const path of await paths()) {
      // Its policy stops what is not of its own host, whoever puts it there.
      if (path === '/booking/confirmation') continue;
      const through = await see(page, 'gateway', path);
      const all = (seen: Seen): string[] => [...seen.head, ...seen.body].sort();
      for (const delivery of ['middleware', 'fragments', 'folder', 'line', 'async-line'] as const)
        expect(await see(page, delivery, path), `${delivery} ${path}`).to.deep.equal(through);
      // A box is where the site builder has it: its parts are all there, in their order, at other places.
      expect(all(await see(page, 'paste', path)), `paste ${path}`).to.deep.equal(all(through));
    }
    await context.close();
  });

  it('is found to be the same by verification', async () => {
    const { stage } = started();
    const answers = new Map<string, string>();
    const countsOf = async (host: string): Promise<string> => {
      const counts = new Map<string, number>();
      for await (const event of stage.client.stream('verify', { params, body: { host } })) {
        if (event.type !== 'page') continue;
        expect(event.problem, `${host}${event.path}`).to.equal(null);
        for (const { snippet, state } of event.parts) {
          const key = `${snippet} ${state}`;
          counts.set(key, (counts.get(key) ?? 0) + 1);
        }
      }
      expect([...counts.values()].reduce((sum, count) => sum + count, 0)).to.be.above(80);
      return JSON.stringify([...counts].sort());
    };
    for (const { host, delivery } of WAY_HOSTS) {
      const [first] = answers.values();
      answers.set(delivery, await countsOf(host));
      // An include that is late is left out, so that no page waits for it; on a busy machine one may be.
      if (delivery === 'fragments' && first !== undefined && answers.get(delivery) !== first)
        answers.set(delivery, await countsOf(host));
    }
    expect([...new Set(answers.values())], JSON.stringify([...answers])).to.have.length(1);
  });

  it('is changed by publishing, but for what somebody has to paste', async () => {
    const { stage } = started();
    const code = '<p id="notice">No sailings today</p>';
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Notice', parts: [{ placement: 'body-end', code }] },
    });
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: 'Notice' } });
    for (const delivery of ['gateway', 'middleware', 'fragments', 'folder'] as const)
      await eventually(async () => expect(await pageOf(delivery, '/fares')).to.contain(code), 30_000);
    expect(await pageOf('paste', '/fares')).not.to.contain(code);
    const { data } = await stage.client.call('showBlocks', { params, query: {} });
    expect(data.blocks.filter(({ state }) => state === 'outdated').map(({ name }) => name)).to.deep.equal([
      'Footer code',
    ]);
    expect(readFileSync(join(ways.folder, 'pasted.json'), 'utf8')).to.contain('release 1 site-foot');
  });
});
