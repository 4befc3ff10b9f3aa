import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { hashSource } from '@pragmatica/core';
import type { Browser } from 'playwright-core';
import { startBrowser } from '../support/browser.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { eventually, send } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';
import { finished, survey } from '../support/surveys.js';

const HOST = 'skerrywick.localhost';

describe('the content policy of a site', function () {
  this.timeout(120_000);
  let stage: Stage;
  let browser: Browser;
  let folder: string;
  let run: RunCli;

  before(async () => {
    stage = await startStage({ hasWorker: true });
    await finished(stage, 'skerrywick', (await survey(stage, 'skerrywick')).number);
    browser = await startBrowser();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-policy-'));
    const plain = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick', COLUMNS: '140' };
    run = (args, more = {}) => plain(args, { ...more, env: { ...env, ...more.env } });
  });

  after(async () => {
    rmSync(folder, { recursive: true });
    await browser.close();
    await stage.close();
  });

  /** What a browser complains about on a page, and which providers' scripts ran. */
  async function visit(path: string): Promise<{ complaints: string[]; scripts: string[] }> {
    const context = await browser.newContext();
    const page = await context.newPage();
    const complaints: string[] = [];
    const scripts: string[] = [];
    page.on('console', (message) => {
      if (/Content Security Policy/i.test(message.text())) complaints.push(message.text());
    });
    page.on('requestfinished', (request) => {
      if (request.resourceType() === 'script') scripts.push(new URL(request.url()).hostname.split('.')[0]!);
    });
    await page.goto(`http://${HOST}:${stage.gatewayPort}${path}`, { waitUntil: 'networkidle' });
    await context.close();
    return { complaints, scripts: [...new Set(scripts)].sort() };
  }
  const headersOf = async (path: string) =>
    (await send({ port: stage.gatewayPort, host: HOST, path })).headers;

  it('says what the snippets need, what pages have, and what that stops', async () => {
    const { out } = await run(['policy']);
    expect(out).to.match(/^skerrywick\.localhost: no policy sent\n/);
    expect(out).to.match(/script-src +tallymast\.localhost:\d+ +Visit counter\n/);
    expect(out).to.match(
      /1 page like \/booking\/confirmation, from the header\n.*\n {2}Blocks Cookie question, /,
    );
    expect(out).to.match(/ pages like \/\S+ \(\w+\)\n {2}script-src 'self' /);
    expect(out).to.contain('What browsers report\nNo reports yet.\n');
    expect((await visit('/booking/confirmation')).complaints).not.to.deep.equal([]);
  });

  it('is not enforced before it was on trial, nor where the gateway does not stand', async () => {
    const early = await run(['policy', 'enforce']);
    expect([early.code, early.err]).to.deep.equal([
      5,
      `pragmatica: The policy of ${HOST} has not been on trial yet, and may block what its pages need. Start a trial first, and see what browsers report.\n`,
    ]);
    const unseen = await run(['policy', 'try', '--host', 'staging.skerrywick.localhost']);
    expect(unseen.err).to.match(/^pragmatica: No survey of staging\.skerrywick\.localhost has finished yet/);
    const unknown = await run(['policy', '--host', 'nowhere.example']);
    expect(unknown.err).to.contain('has no host "nowhere.example"');
  });

  it('on trial stops nothing, and takes what browsers report by snippet', async () => {
    expect((await run(['policy', 'try'])).out).to.match(/^On trial on skerrywick\.localhost\./);
    await eventually(async () =>
      expect(await headersOf('/')).to.have.property('content-security-policy-report-only'),
    );
    expect(await headersOf('/')).not.to.have.property('content-security-policy');
    for (const path of ['/', '/booking', '/fares'])
      expect((await visit(path)).complaints, path).to.deep.equal([]);
    const report = {
      'document-uri': `http://${HOST}/fares?visitor=1`,
      'effective-directive': 'img-src',
      'blocked-uri': `http://tallymast.localhost:${stage.providerPort}/tell?id=7`,
      disposition: 'report',
    };
    for (const page of [report, report, { ...report, 'document-uri': 'http://foreign.example/' }])
      await send({
        ...{ port: stage.gatewayPort, host: 'code.example.com', path: '/policy-reports', method: 'POST' },
        body: JSON.stringify({ 'csp-report': page }),
      });
    await eventually(async () => expect((await run(['policy'])).out).not.to.contain('No reports yet'));
    const { out } = await run(['policy']);
    expect(out).to.match(
      /2 × Would be blocked: something from http:\/\/tallymast\.localhost:\d+ \(img-src\)\. “Visit counter” loads it\. \/fares, /,
    );
    expect(out).to.match(/Allow it: pragmatica policy allow img-src "tallymast\.localhost:\d+"/);
    expect(out).not.to.contain('visitor=1').and.not.contain('foreign');
    expect((await run(['policy', 'clear'])).out).to.equal(`Reports of ${HOST} forgotten.\n`);
    expect((await run(['policy'])).out).to.contain('No reports yet');
  });

  it('enforced lets everything of the snippets run, also where the site’s own policy stopped it', async () => {
    const before = await visit('/booking/confirmation');
    expect((await run(['policy', 'enforce'])).out).to.match(/^Enforced on skerrywick\.localhost\./);
    await eventually(async () => expect(await headersOf('/')).to.have.property('content-security-policy'));
    for (const path of ['/', '/booking', '/fares'])
      expect((await visit(path)).complaints, path).to.deep.equal([]);
    // What a provider's file puts together in the browser, only browsers know.
    const { complaints } = await visit('/booking/confirmation');
    const told = complaints.map((text) => /image 'http:\/\/([^/]+)\/tell/.exec(text)?.[1]);
    expect(told).not.to.include(undefined);
    for (const source of new Set(told)) await run(['policy', 'allow', 'img-src', source!]);
    await eventually(async () => expect((await visit('/booking/confirmation')).complaints).to.deep.equal([]));
    const { scripts } = await visit('/booking/confirmation');
    expect(scripts).to.include.members(['tallymast', 'crateline', 'biscuitkeel']);
    expect(before.scripts).not.to.include('tallymast');
  });

  it('follows what is published', async () => {
    const code = '<script>window.tide = "rising";</script>';
    await stage.client.call('createSnippet', {
      params: { site: 'skerrywick' },
      body: { name: 'Tide', parts: [{ placement: 'head-end', code }] },
    });
    await run(['publish', '-m', 'Tide']);
    await eventually(async () =>
      expect((await headersOf('/'))['content-security-policy']).to.contain(
        hashSource('window.tide = "rising";'),
      ),
    );
    expect((await visit('/')).complaints).to.deep.equal([]);
  });

  it('takes and gives back sources, and refuses what is none', async () => {
    expect((await run(['policy', 'allow', 'img-src', 'pictures.example'])).out).to.equal(
      'img-src allows pictures.example from now on.\n',
    );
    await eventually(async () =>
      expect((await headersOf('/booking/confirmation'))['content-security-policy']).to.contain(
        'pictures.example',
      ),
    );
    expect((await headersOf('/'))['content-security-policy']).not.to.contain('img-src');
    expect((await run(['policy', 'allow', 'img-src', 'pictures.example'])).out).to.match(/already/);
    expect((await run(['policy', 'deny', 'img-src', 'pictures.example'])).out).to.match(/no more/);
    for (const source of ['a;b', 'a b', 'a,b', ''])
      expect((await run(['policy', 'allow', 'img-src', source])).code, source).not.to.equal(0);
    expect((await run(['policy', 'off'])).out).to.match(/^No policy is sent/);
    await eventually(async () =>
      expect(await headersOf('/')).not.to.have.property('content-security-policy'),
    );
  });
});
