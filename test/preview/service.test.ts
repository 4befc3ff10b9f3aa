import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { localhostFetch } from '@pragmatica/contract/node';
import { SecretBox, readPass, writePass } from '@pragmatica/server';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser } from '../support/browser.js';
import { cliRunner } from '../support/cli.js';
import { ADMIN } from '../support/stage.js';
import { SITE, plain, startVisitedStage, type Answer, type VisitedStage } from '../support/visited-stage.js';

const params = { site: SITE };
const counter = plain('counter', '<script>window.counted = "now"</script>', { name: 'Counter' });
const chat = plain(
  'chat',
  '<script>addEventListener("DOMContentLoaded",()=>{document.body.append("Chat is here")})</script>',
  { name: 'Chat' },
);

/** What a browser does with what the preview says, as far as it matters here. */
async function enter(
  address: string,
): Promise<{ readonly origin: string; readonly cookie: string; readonly to: string }> {
  const answer = await localhostFetch(address, { redirect: 'manual' });
  expect(answer.status).to.equal(303);
  const cookie = answer.headers.getSetCookie()[0]!;
  expect(cookie)
    .to.match(/HttpOnly/)
    .and.match(/SameSite=Lax/)
    .and.match(/Max-Age=\d+/);
  return {
    origin: new URL(address).origin,
    cookie: cookie.split(';', 1)[0]!,
    to: answer.headers.get('location')!,
  };
}

describe('previews', function () {
  this.timeout(120_000);
  let site: VisitedStage;
  let browser: Browser;
  let heard: { cookie?: string | undefined; method?: string | undefined; target?: string | undefined } = {};
  const page =
    (text: string, headers: Record<string, string | string[]> = {}): Answer =>
    (request, response) => {
      heard = { cookie: request.headers.cookie, method: request.method, target: request.url };
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', etag: '"1"', ...headers });
      response.end(`<!doctype html><html><head><title>Quay</title></head><body>${text}</body></html>`);
    };

  before(async () => {
    [site, browser] = await Promise.all([startVisitedStage(), startBrowser()]);
    await site.publish([counter]);
    await site.draft([counter, chat]);
    const own = `http://${SITE}.localhost:${site.stage.gatewayPort}`;
    site.answers = {
      '/': page(`<h1>Quay</h1><a id="own" href="${own}/fares?day=1">Fares</a>`),
      '/fares': page('<h1>Fares</h1>', {
        'set-cookie': [
          'basket=1; Domain=quay.localhost; Secure; SameSite=None; Path=/',
          'pragmatica-preview=x',
        ],
        'strict-transport-security': 'max-age=1000',
      }),
      '/guarded': page('<h1>Guarded</h1>', { 'content-security-policy': "default-src 'none'" }),
      '/old': (_, response) => void response.writeHead(301, { location: `${own}/fares` }).end(),
      '/style.css': 'p{color:red}',
    };
  });

  after(async () => {
    await browser.close();
    await site.close();
  });

  const make = async (body: object = {}) =>
    (await site.stage.client.call('makePreview', { params, body })).data;
  interface Asking {
    readonly method?: string;
    readonly body?: string;
    readonly headers?: Readonly<Record<string, string>>;
  }
  const get = (entered: Awaited<ReturnType<typeof enter>>, at: string, init: Asking = {}) =>
    localhostFetch(entered.origin + at, {
      redirect: 'manual',
      ...init,
      headers: { cookie: `${entered.cookie}; own=7`, ...init.headers },
    });

  it('show the draft on the real pages, and nobody else gets it', async () => {
    const entered = await enter((await make({ path: '/fares?day=2' })).address);
    expect(entered.to).to.equal('/fares?day=2');
    const answer = await get(entered, entered.to);
    const html = await answer.text();
    expect(html)
      .to.include('Chat is here')
      .and.include('window.counted = "now"')
      .and.include('<h1>Fares</h1>');
    expect(html.split('window.counted').length - 1).to.equal(1);
    expect(answer.headers.get('x-robots-tag')).to.equal('noindex, nofollow');
    expect(answer.headers.get('cache-control')).to.equal('no-store');
    expect(answer.headers.get('etag')).to.equal(null);
    expect(answer.headers.get('strict-transport-security')).to.equal(null);
    // The site sets its cookies here, and never ours.
    expect(answer.headers.getSetCookie()).to.deep.equal(['basket=1; SameSite=Lax; Path=/']);
    expect(heard).to.include({ cookie: 'own=7', method: 'GET', target: '/fares?day=2' });
    const real = await localhostFetch(`http://${SITE}.localhost:${site.stage.gatewayPort}/fares`);
    expect(await real.text()).not.to.include('Chat is here');
  });

  it('follow the draft as it changes, and show a release as it was', async () => {
    const ofDraft = await enter((await make()).address);
    const ofRelease = await enter((await make({ release: 1 })).address);
    expect(await (await get(ofRelease, '/')).text())
      .to.include('window.counted')
      .and.not.include('Chat is here');
    await site.draft([plain('counter', '<script>window.counted = "later"</script>'), chat]);
    expect(await (await get(ofDraft, '/')).text()).to.include('window.counted = "later"');
    await site.draft([counter, chat]);
  });

  it('keep redirects, and pass on what is no page', async () => {
    const entered = await enter((await make()).address);
    const moved = await get(entered, '/old');
    expect([moved.status, moved.headers.get('location')]).to.deep.equal([301, '/fares']);
    const style = await get(entered, '/style.css');
    expect([style.headers.get('content-type'), await style.text()]).to.deep.equal([
      'text/css; charset=utf-8',
      'p{color:red}',
    ]);
    expect((await get(entered, '/nowhere')).status).to.equal(404);
  });

  it('only look: nothing is sent to the site, and no worker is let in', async () => {
    const entered = await enter((await make()).address);
    heard = {};
    const sent = await get(entered, '/fares', { method: 'POST', body: 'seats=4' });
    expect([sent.status, heard]).to.deep.equal([405, {}]);
    expect(await sent.text()).to.include('not passed on');
    expect((await get(entered, '/sw.js', { headers: { 'service-worker': 'script' } })).status).to.equal(404);
    expect(await (await get(entered, '/robots.txt')).text()).to.include('Disallow: /');
  });

  it('lead nowhere else, whatever a path looks like, and are shown at their own name only', async () => {
    const { address } = await make();
    const { origin, port, search } = new URL(address);
    const entered = await localhostFetch(`${origin}/.//elsewhere.example/${search}`, { redirect: 'manual' });
    expect(entered.headers.get('location')).to.equal('/elsewhere.example/');
    const { answers } = site;
    site.answers = {
      '/away': (_, response) => void response.writeHead(302, { location: '/.//elsewhere.example/' }).end(),
    };
    const moved = await get(await enter(address), '/away');
    site.answers = answers;
    expect(moved.headers.get('location')).to.equal('/elsewhere.example/');
    // At the console’s name a page could speak to the console.
    const beside = await localhostFetch(`http://localhost:${port}/${search}`, { redirect: 'manual' });
    expect(beside.status).to.equal(421);
    expect(await beside.text()).to.include('http://preview.localhost');
  });

  it('are over for whoever has no pass, a changed one, or an old one', async () => {
    const { address } = await make();
    const { origin, searchParams } = new URL(address);
    const pass = searchParams.get('pragmatica-preview')!;
    const changed = `${Buffer.from(JSON.stringify({ s: SITE, h: 'quay.localhost', r: null, u: 9e15 })).toString('base64url')}.${pass.split('.')[1]!}`;
    for (const given of ['', 'x', `${pass}x`, changed]) {
      const answer = await localhostFetch(`${origin}/?pragmatica-preview=${given}`, { redirect: 'manual' });
      expect([given, answer.status]).to.deep.equal([given, 410]);
    }
    const without = await localhostFetch(`${origin}/fares`);
    expect(without.status).to.equal(410);
    expect(await without.text()).to.include('This preview is over');
    const box = new SecretBox(Buffer.alloc(32, 7));
    const wish = { site: SITE, host: 'quay.localhost', release: null, until: 1_000 };
    expect(readPass(box, writePass(box, wish), 999)).to.deep.equal(wish);
    expect(readPass(box, writePass(box, wish), 1_000)).to.equal(undefined);
    expect(readPass(new SecretBox(Buffer.alloc(32, 8)), writePass(box, wish), 0)).to.equal(undefined);
  });

  it('are refused for what is not there, and where they would stand beside the console', async () => {
    const problem = async (body: object): Promise<string> =>
      make(body).then(
        () => 'made',
        (error: unknown) => String(error),
      );
    expect(await problem({ host: 'other.localhost' })).to.include('other.localhost');
    expect(await problem({ release: 99 })).to.include('99');
    expect(await problem({ path: '//evil.example/' })).to.include('path');
    const beside = await startVisitedStage({ PRAGMATICA_PREVIEW_ADDRESS: 'http://localhost:9' });
    try {
      const made = beside.stage.client.call('makePreview', { params, body: {} });
      expect(
        await made.then(
          () => '',
          (error: unknown) => String(error),
        ),
      ).to.include('console’s host name');
    } finally {
      await beside.close();
    }
  });

  it('say what is wrong when the site does not answer, and when the host is gone', async () => {
    const entered = await enter((await make()).address);
    const { answers } = site;
    site.answers = { '/': (request) => void request.socket.destroy() };
    const failed = await get(entered, '/');
    site.answers = answers;
    expect(failed.status).to.be.oneOf([502, 504]);
  });

  it('are marked beyond mistake in a browser, whatever the page’s policy, and links stay inside', async () => {
    const { address } = await make();
    const context = await browser.newContext();
    const tab = await context.newPage();
    await tab.goto(address);
    expect(tab.url()).to.equal(`${new URL(address).origin}/`);
    await tab.getByText('Chat is here').waitFor();
    expect(await tab.title()).to.equal('Preview: Quay');
    const mark = tab.locator('pragmatica-preview');
    const box = async () => JSON.stringify(await mark.boundingBox());
    const { width, height } = tab.viewportSize()!;
    expect(await box()).to.equal(JSON.stringify({ x: 0, y: 0, width, height }));
    // A page that empties itself keeps its mark, and what is under it can be clicked.
    await tab.evaluate(() => document.querySelector('pragmatica-preview')!.remove());
    await mark.waitFor({ state: 'attached' });
    await tab.locator('#own').click();
    await tab.waitForURL('**/fares?day=1');
    expect(new URL(tab.url()).origin).to.equal(new URL(address).origin);
    await tab.goto(`${new URL(address).origin}/guarded`);
    await mark.waitFor({ state: 'attached' });
    // Its policy stops the draft’s code, as it will when that is published.
    expect(await tab.locator('body').innerText()).to.equal('Guarded');
    await tab.goto(`${new URL(address).origin}/.pragmatica-preview/leave`);
    await tab.getByText('You have left the preview').waitFor();
    await tab.goto(`${new URL(address).origin}/`);
    await tab.getByText('This preview is over').waitFor();
    await context.close();
  });

  it('are a command', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'pragmatica-preview-'));
    try {
      const cli = cliRunner(() => site.stage.server, folder);
      await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
      const made = await cli(['preview', '/fares', '--site', SITE, '--hours', '3']);
      expect(made.code, made.err).to.equal(0);
      expect(made.out)
        .to.include('the draft as it is then on quay.localhost')
        .and.match(/http:\/\/preview\.localhost:\d+\/fares\?pragmatica-preview=/)
        .and.include('Only this computer finds it');
      const json = JSON.parse((await cli(['preview', '--site', SITE, '--json'])).out) as { host: string };
      expect(json.host).to.equal('quay.localhost');
      expect((await cli(['preview', 'fares', '--site', SITE])).err).to.include('/booking');
      expect((await cli(['preview', '--site', SITE, '--hours', '999'])).code).to.equal(2);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it('are made in the console beside what is not published yet', async () => {
    const { page: tab, context, problems } = await openConsole(browser, site.stage);
    await tab.goto(`/sites/${SITE}/strip`);
    await tab.getByRole('button', { name: 'Preview' }).click();
    const dialog = tab.getByRole('dialog');
    await dialog.getByLabel('Start page').fill('fares');
    await dialog.getByRole('button', { name: 'Create the address' }).click();
    await dialog.getByText('Begin the path with a slash').waitFor();
    await dialog.getByLabel('Start page').fill('/fares');
    await dialog.getByLabel('Valid for').selectOption('72');
    await dialog.getByRole('button', { name: 'Create the address' }).click();
    const link = dialog.getByRole('link', { name: 'Open the preview' });
    const [opened] = await Promise.all([context.waitForEvent('page'), link.click()]);
    await opened.getByText('Chat is here').waitFor();
    expect(new URL(opened.url()).pathname).to.equal('/fares');
    expect(problems.filter((problem) => !problem.includes('422'))).to.deep.equal([]);
    await context.close();
  });
});
