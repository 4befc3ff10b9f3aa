import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { PagePictureEvent } from '@pragmatica/contract';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser } from '../support/browser.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { api, problemOf } from '../support/http.js';
import { ADMIN } from '../support/stage.js';
import { SITE, plain, startVisitedStage, type VisitedStage } from '../support/visited-stage.js';

const params = { site: SITE };
const page = (text: string): string =>
  `<!doctype html><html lang="en"><head><title>Quay</title></head><body style="margin:0">${text}</body></html>`;
const BOX = 'style="height:120px;width:300px"';
const PAGES = {
  '/': page(
    `<main><h1 ${BOX}>Ferries</h1><div class="slot" ${BOX}>Slot</div></main><div class="slot">Foot</div>`,
  ),
  '/fares': page(`<main><h1>Fares</h1><div class="slot">Slot</div></main>`),
  '/plain': page(`<main><h1>Plain</h1></main>`),
  '/sitemap.xml':
    '<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>http://quay.localhost/</loc></url><url><loc>http://quay.localhost/fares</loc></url><url><loc>http://quay.localhost/plain</loc></url></urlset>',
};
const greeter = plain('greeter', '<script>document.write("<p id=greeting>Hello</p>")</script>', {
  name: 'Greeter',
});

type Picture = Extract<PagePictureEvent, { type: 'picture' }>;

describe('a place on a page', function () {
  this.timeout(120_000);
  let site: VisitedStage;
  let browser: Browser;
  let folder: string;
  let cli: RunCli;

  before(async () => {
    [site, browser] = await Promise.all([startVisitedStage(), startBrowser()]);
    site.answers = PAGES;
    await site.publish([greeter]);
    folder = mkdtempSync(path.join(tmpdir(), 'pragmatica-place-'));
    cli = cliRunner(() => site.stage.server, folder);
    await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
  });

  after(async () => {
    await browser.close();
    await site.close();
    rmSync(folder, { recursive: true, force: true });
  });

  async function picture(body: object = {}): Promise<Picture> {
    const events: PagePictureEvent[] = [];
    for await (const event of site.stage.client.stream('pagePicture', { params, body })) events.push(event);
    expect(events.map(({ type }) => type)).to.deep.equal(['visiting', 'picture']);
    return events[1] as Picture;
  }

  it('is seen on a picture without the snippets, with the boxes of its elements', async () => {
    const seen = await picture();
    const { data } = await site.stage.client.call('showVisitPage', {
      params: { ...params, round: seen.round, visit: seen.visit },
    });
    expect(data.html).to.include('data-pragmatica-element="0"').and.not.include('greeting');
    const sizes = seen.elements.map(({ box }) => `${box.width}x${box.height}`);
    expect(sizes.filter((size) => size === '300x120')).to.have.length(2);
    const { data: image } = await site.stage.client.call('showScreenshot', {
      params: { ...params, round: seen.round, visit: seen.visit, screenshot: seen.screenshot },
    });
    expect(image.type).to.equal('image/jpeg');
    const { data: rounds } = await site.stage.client.call('listVisitRounds', { params, query: {} });
    expect(rounds.items.find(({ number }) => number === seen.round)!.isQuestion).to.equal(true);
  });

  it('is named by a selector that holds on the other pages, too', async () => {
    const seen = await picture();
    const slot = seen.elements.filter(({ box }) => box.height === 120)[1]!;
    const { data } = await site.stage.client.call('nameElement', {
      params: { ...params, picture: seen.round },
      body: { element: slot.element, side: 'inside-end', code: '<b>x</b>' },
    });
    expect(data.reason).to.equal(null);
    expect(data.looked).to.equal(3);
    expect(data.choices[0]).to.deep.include({ holdsOn: ['/', '/fares'], missingOn: ['/plain'] });
    expect(data.choices[0]!.selector).to.match(/slot/);
    const narrow = await site.stage.client.call('nameElement', {
      params: { ...params, picture: seen.round },
      body: { element: slot.element, side: 'after', pages: { include: ['/', '/fares'], exclude: [] } },
    });
    expect(narrow.data.choices[0]!.missingOn).to.deep.equal([]);
  });

  it('is seen with the code in it before anything is saved', async () => {
    const seen = await picture({
      part: {
        placement: { selector: 'main > .slot', side: 'after' },
        code: '<p style="height:44px;width:77px">New</p>',
      },
    });
    expect(seen.elements.map(({ box }) => `${box.width}x${box.height}`)).to.deep.equal(['77x44']);
  });

  it('is saved, put into pages, and found wrong with a reason where it is no selector', async () => {
    const { status, json } = await api(
      site.stage.server,
      site.stage.token,
      'POST',
      `/sites/${SITE}/snippets`,
      {
        name: 'Broken',
        parts: [{ placement: { selector: 'p:hover', side: 'after' }, code: '<b>x</b>' }],
      },
    );
    expect(status).to.equal(422);
    expect(JSON.stringify(json)).to.include('“:hover” cannot be used here');
    const { data } = await site.stage.client.call('createSnippet', {
      params,
      body: {
        name: 'Directory',
        parts: [{ placement: { selector: 'MAIN>.slot', side: 'inside-end' }, code: '<b>Directory</b>' }],
      },
    });
    expect(data.parts[0]!.placement).to.deep.equal({ selector: 'main > .slot', side: 'inside-end' });
    await site.stage.client.call('publish', { params, ifMatch: '*', body: { message: 'm' } });
    const { summary } = await site.verify({ pages: ['/'], devices: ['desktop'] });
    const found = summary.snippets.find(({ snippet }) => snippet === 'directory')!;
    expect(found.devices[0]!.rungs.delivered).to.equal('reached');
  });

  it('is asked of pictures only, of elements that are on them, and said not to be where no page opens', async () => {
    const look = await site.verify({ pages: ['/'], devices: ['desktop'] });
    const ask = (number: number, element: number) =>
      site.stage.client.call('nameElement', {
        params: { ...params, picture: number },
        body: { element, side: 'after' },
      });
    expect(await problemOf(ask(look.round.number, 0))).to.include({ status: 404 });
    expect(await problemOf(ask(9_999, 0))).to.include({ status: 404 });
    const seen = await picture();
    const { data } = await ask(seen.round, 90_000);
    expect(data.choices).to.deep.equal([]);
    expect(data.reason).to.be.a('string').and.not.equal('');
    const events: PagePictureEvent[] = [];
    site.answers = { ...PAGES, '/gone': (_, response) => void response.destroy() };
    for await (const event of site.stage.client.stream('pagePicture', { params, body: { path: '/gone' } }))
      events.push(event);
    site.answers = PAGES;
    const last = events.at(-1)!;
    // A page that does not answer is shown as what visitors get instead, or said to have failed; never a picture of nothing.
    expect(last.type === 'failed' ? last.message : 'a picture').to.match(/\w/);
    expect(events[0]!.type).to.equal('visiting');
  });

  it('is refused with the field that is wrong', async () => {
    const { status, json } = await api(
      site.stage.server,
      site.stage.token,
      'POST',
      `/sites/${SITE}/page-pictures`,
      { path: '/', part: { placement: { selector: 'p:hover', side: 'after' }, code: '<b>x</b>' } },
    );
    expect(status).to.equal(422);
    expect(JSON.stringify(json)).to.include('/part/placement/selector');
  });

  it('is tried on the command line', async () => {
    const file = path.join(folder, 'code.html');
    writeFileSync(file, '<b>x</b>');
    const some = await cli(['place', 'after:main > .slot', '--code', file, '--site', SITE]);
    expect(some.code).to.equal(1);
    expect(some.out)
      .to.match(/\/plain\s+The page does not have this element\./)
      .and.include('2 of 3 pages have this place.');
    const all = await cli(['place', 'inside:main > h1', '--pages', '/', '/fares', '--site', SITE, '--json']);
    expect(all.code).to.equal(0);
    expect(JSON.parse(all.out)).to.deep.equal({
      pages: [
        { path: '/', message: null },
        { path: '/fares', message: null },
      ],
      known: 2,
    });
    const bad = await cli(['place', 'after:li:last-child', '--site', SITE]);
    expect(bad.code).to.equal(2);
    expect(bad.err).to.include('“:last-child” cannot be used here').and.not.include('\n\n');
  });

  it('is clicked in the console, and seen before it is saved', async () => {
    const { page: view, context, problems } = await openConsole(browser, site.stage);
    await view.goto(`/sites/${SITE}/snippets/new`);
    await view.getByLabel('Code', { exact: true }).fill('<p style="height:60px">Directory of the quay</p>');
    await view.getByRole('radio', { name: 'At an element' }).click();
    await view.getByRole('button', { name: 'Pick it on the page' }).click();
    const dialog = view.getByRole('dialog', { name: 'Pick a place on the page' });
    const shown = dialog.getByTestId('page-picture');
    await shown.waitFor({ timeout: 60_000 });
    // Another page is shown; the form behind the dialog is not sent.
    await dialog.getByLabel('Page').fill('/fares');
    await dialog.getByRole('button', { name: 'Show', exact: true }).click();
    await dialog.getByRole('img', { name: 'The page /fares' }).waitFor({ timeout: 60_000 });
    expect(new URL(view.url()).pathname).to.equal(`/sites/${SITE}/snippets/new`);
    await dialog.getByLabel('Page').fill('/');
    await dialog.getByRole('button', { name: 'Show', exact: true }).click();
    await dialog.getByRole('img', { name: 'The page /', exact: true }).waitFor({ timeout: 60_000 });
    await shown.scrollIntoViewIfNeeded();
    const frame = (await shown.boundingBox())!;
    // The second box of 300 × 120 pixels on a page of 1,280.
    const scale = frame.width / 1_280;
    await shown.click({ position: { x: 40 * scale, y: 190 * scale } });
    await dialog.getByText(/slot/).first().waitFor();
    await dialog.getByText('Not on /plain').waitFor();
    await dialog.getByLabel('After it').click();
    await dialog.getByRole('button', { name: 'See the result' }).click();
    await dialog.getByText('What your code shows is outlined.').waitFor({ timeout: 60_000 });
    await dialog.getByRole('button', { name: 'Use this place' }).click();
    expect(await view.getByLabel('Element', { exact: false }).first().inputValue()).to.match(/slot/);
    await view.getByRole('button', { name: 'Check the pages' }).click();
    await view.getByText(/2 of 3 pages have this place\. Not: \/plain/).waitFor();
    await view.getByLabel('Element', { exact: false }).first().fill('p:hover');
    await view.getByText('“:hover” cannot be used here').waitFor();
    expect(problems).to.deep.equal([]);
    await context.close();
  });
});
