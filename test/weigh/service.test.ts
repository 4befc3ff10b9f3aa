import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect } from 'chai';
import type { WeightResource } from '@pragmatica/contract';
import { openConsole, startBrowser } from '../support/browser.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { problemOf } from '../support/http.js';
import { ADMIN } from '../support/stage.js';
import { plain, SITE, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

const PAGE =
  '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quay</title></head><body><h1>Ferries</h1><p>Between three islands.</p></body></html>';
const params = { site: SITE };
const filler = (bytes: number): string => `/*${'x'.repeat(bytes)}*/`;
const file = (key: string): string => `<script async src="http://${key}.localhost:PORT/${key}.js"></script>`;
const ANSWERS = {
  '/': PAGE,
  '/fares': PAGE,
  'heavy.localhost/heavy.js': `${filler(60_000)};var until=Date.now()+400;while(Date.now()<until);`,
  'light.localhost/light.js': filler(2_000),
  'agreed.localhost/agreed.js': filler(20_000),
};

describe('weighing by the service', function () {
  this.timeout(180_000);
  let site: VisitedStage;
  let folder: string;
  let cli: RunCli;
  let weight: WeightResource;

  before(async () => {
    site = await startVisitedStage();
    site.answers = ANSWERS;
    const { etag } = await site.stage.client.call('showSite', { params });
    await site.stage.client.call('editSite', {
      params,
      ifMatch: etag,
      body: {
        consent: {
          cookie: 'agreed',
          format: { kind: 'list' },
          categories: [{ key: 'visits', name: 'Visits', value: 'yes' }],
        },
      },
    });
    await site.publish([
      plain('heavy', file('heavy'), { name: 'Heavy chat' }),
      plain('light', file('light'), { name: 'Light counter', pages: { include: ['/'], exclude: [] } }),
      plain('agreed', file('agreed'), { name: 'After consent', limits: { consent: ['visits'] } }),
    ]);
    folder = mkdtempSync(path.join(tmpdir(), 'pragmatica-weigh-'));
    cli = cliRunner(() => site.stage.server, folder);
    await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
  });

  after(async () => {
    await site.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('has nothing to show before', async () => {
    const failed = await problemOf(site.stage.client.call('showWeight', { params, query: {} }));
    expect(failed).to.include({ status: 404 });
    expect(failed.message).to.match(/No page of "quay" has been weighed yet/);
  });

  it('finds what each snippet adds, also what waits for consent, and who keeps the page from answering', async () => {
    const { round, visits } = await site.verify({
      weigh: true,
      pages: ['/', '/fares'],
      devices: ['desktop'],
    });
    expect(round).to.include({ state: 'done', isWeighing: true, isQuestion: true });
    expect(visits.map(({ path: at }) => at).filter((at) => at === '/')).to.have.length(7);
    ({ data: weight } = await site.stage.client.call('showWeight', { params, query: {} }));
    expect(weight).to.include({ round: round.number, release: 1, budgetKb: null, isWithin: null });
    expect(weight.failed).to.deep.equal([]);
    const [front, fares] = weight.pages;
    expect(front!.snippets.map(({ snippet }) => snippet)).to.deep.equal(['heavy', 'agreed', 'light']);
    expect(fares!.snippets.map(({ snippet }) => snippet)).to.deep.equal(['heavy', 'agreed']);
    const [heavy, agreed, light] = front!.snippets;
    expect(heavy!.adds.bytes).to.be.within(60_000, 61_500);
    expect(agreed!.adds.bytes).to.be.within(20_000, 21_500);
    expect(light!.adds.bytes).to.be.within(2_000, 3_500);
    expect([heavy!, agreed!, light!].map(({ adds }) => adds.requests)).to.deep.equal([1, 1, 1]);
    expect(heavy!.adds.blockingMs).to.be.above(250);
    expect(light!.adds.blockingMs).to.be.below(250);
    // The page by itself is just its document, and the whole is no more than its pieces.
    expect(front!.bare.requests).to.equal(1);
    const pieces = front!.snippets.reduce((sum, { adds }) => sum + adds.bytes, 0);
    expect(Math.abs(front!.adds.bytes - pieces)).to.be.below(400);
    expect(front).to.include({ running: 3, sharedBytes: 0 });
  });

  it('is no look at how things are: the latest round, the history and the standings stay as they were', async () => {
    const failed = await problemOf(
      site.stage.client.call('showVisitRound', { params: { ...params, round: 'latest' } }),
    );
    expect(failed.status).to.equal(404);
    const { data } = await site.stage.client.call('showWatchHistory', { params, query: {} });
    expect(data.rounds).to.deep.equal([]);
    const look = await site.verify({ pages: ['/'], devices: ['desktop'] });
    const number = look.round.number;
    const other = await problemOf(site.stage.client.call('showWeight', { params, query: { round: number } }));
    expect(other).to.include({ status: 404, message: `Round ${number} did not weigh pages.` });
    const none = await problemOf(site.stage.client.call('showWeight', { params, query: { round: 999 } }));
    expect(none.status).to.equal(404);
  });

  it('is held against a budget that is set beside the rest of the watch', async () => {
    const set = await cli(['watch', 'set', '--budget', '50', '--site', SITE]);
    expect(set.out).to.include('Budget:          50 kB per page for all snippets together');
    const { data } = await site.stage.client.call('showWatch', { params });
    expect(data).to.include({ budgetKb: 50, afterPublishing: 'nothing' });
    const last = await cli(['weigh', '--last', '--site', SITE]);
    expect(last.code).to.equal(1);
    expect(last.out).to.match(
      /Your snippets add 8\d(\.\d)? kB to \/: 3\d(\.\d)? kB more than the budget of 50 kB\./,
    );
    expect(last.out).to.match(/“Heavy chat” alone is 60\.\d kB/);
    expect(last.out).to.match(/\+ Heavy chat +60\.\d +1 /);
    await cli(['watch', 'set', '--budget', 'none', '--site', SITE]);
    const free = await cli(['weigh', '--last', '--site', SITE]);
    expect(free.code).to.equal(0);
    expect(free.err).to.include('No budget is set.');
    const wrong = await cli(['watch', 'set', '--budget', '0', '--site', SITE]);
    expect(wrong.code).not.to.equal(0);
  });

  it('weighs a draft before it is published', async () => {
    await site.draft([plain('light', file('light'), { name: 'Light counter' })]);
    const { code, out } = await cli([
      'weigh',
      '/',
      '--draft',
      '--device',
      'desktop',
      '--site',
      SITE,
      '--json',
    ]);
    expect(code).to.equal(0);
    const drafted = JSON.parse(out) as WeightResource;
    expect(drafted.isRehearsal).to.equal(true);
    expect(drafted.pages[0]!.snippets.map(({ snippet }) => snippet)).to.deep.equal(['light']);
    expect(drafted.pages[0]!.adds.bytes).to.be.within(2_000, 3_500);
  });

  it('is shown in the console, page by page, and measured again from there', async () => {
    await site.publish([plain('light', file('light'), { name: 'Light counter' })]);
    const browser = await startBrowser();
    try {
      const { page, context, problems } = await openConsole(browser, site.stage);
      await page.goto(`/sites/${SITE}/check/weight`);
      await page.getByText(`${SITE}.localhost, the draft, on`).waitFor();
      await page.getByRole('button', { name: 'Weigh again' }).click();
      await page.getByRole('button', { name: 'Stop' }).waitFor();
      await page.getByText(`${SITE}.localhost, release 2, on`).waitFor();
      const row = page.getByRole('row', { name: /Light counter/ });
      expect(await row.innerText()).to.match(/2\.\d kB\s+1/);
      await page.getByLabel('Budget per page').fill('1');
      await page.getByRole('button', { name: 'Save' }).click();
      await page.getByText(/1\.\d kB more than the budget of 1 kB/).waitFor();
      await page.getByText('“Light counter” alone is').waitFor();
      await page.getByLabel('Budget per page').fill('');
      await page.getByRole('button', { name: 'Save' }).click();
      await page.getByText('Budget removed', { exact: true }).waitFor();
      await page.getByText(/more than the budget/).waitFor({ state: 'detached' });
      expect(problems).to.deep.equal([]);
      await context.close();
    } finally {
      await browser.close();
    }
  });
});
