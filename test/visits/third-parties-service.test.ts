import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setWatch } from '@pragmatica/demo';
import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser } from '../support/browser.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { problemOf } from '../support/http.js';
import { ADMIN } from '../support/stage.js';
import { SITE, plain, startVisitedStage, type Answer, type VisitedStage } from '../support/visited-stage.js';

describe('what other hosts get in the visits of a site', function () {
  this.timeout(180_000);
  let site: VisitedStage;
  let browser: Browser;
  let folder: string;
  let cli: RunCli;
  let told: string[] = [];
  const params = { site: SITE };

  before(async () => {
    [site, browser] = await Promise.all([startVisitedStage(), startBrowser()]);
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-others-'));
    cli = cliRunner(() => site.stage.server, folder);
    await cli(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
    const pixel: Answer = (request, response) => {
      told.push(request.url ?? '');
      response.writeHead(204).end();
    };
    site.answers = {
      '/': '<!doctype html><html><head><title>Quay</title></head><body><p>Quay</p></body></html>',
      'tidecount.localhost/c.js': `new Image().src = 'http://tidecount.localhost:${site.port}/tell?account=T-7&page=' + location.pathname;`,
      'tidecount.localhost/tell': pixel,
    };
    await site.publish([
      plain('count', '<script src="http://tidecount.localhost:PORT/c.js"></script>', {
        name: 'Visit counter',
      }),
    ]);
  });
  beforeEach(() => {
    told = [];
  });
  after(async () => {
    await browser.close();
    await site.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('is their real answer at first, and then a stand-in’s, unless somebody says otherwise for once', async () => {
    const first = await site.verify();
    expect(told).to.have.length.above(0);
    expect(first.summary.reports).to.deep.equal([
      {
        ...{ snippet: 'count', name: 'Visit counter', host: `tidecount.localhost:${site.port}` },
        ...{ count: told.length, by: { host: told.length } },
      },
    ]);
    told = [];
    await setWatch(site.stage.client, SITE, { afterPublishing: 'nothing', thirdParties: 'stand-ins' });
    const second = await site.verify();
    expect(told).to.deep.equal([]);
    expect(second.summary.isWell).to.equal(true);
    expect(second.summary.reports[0]!.by).to.have.all.keys('stand-in');
    // It is a look at how things are, like any other.
    const { data } = await site.stage.client.call('showWatchHistory', { params, query: {} });
    expect(data.rounds.map(({ number }) => number)).to.include(second.round.number);
    await site.verify({ thirdParties: 'real' });
    expect(told).to.have.length.above(0);
  });

  it('is told of each visit field by field, and in its archive', async () => {
    const { round } = await site.verify();
    const visit = { params: { ...params, round: round.number, visit: 1 } };
    const { data } = await site.stage.client.call('showVisit', visit);
    const [report] = data.loads[0]!.judged!.reports!;
    expect(report!.by).to.equal('stand-in');
    expect(report!.fields).to.deep.equal([
      { name: 'account', value: 'T-7' },
      { name: 'page', value: '/' },
    ]);
    const { data: har } = await site.stage.client.call('exportHar', visit);
    expect(JSON.stringify(har)).to.include('A stand-in answered; the host was not asked.');
    const shown = await cli(['visit', `${round.number}/1`, '--site', SITE]);
    expect(shown.out).to.include('answered by a stand-in').and.include('account: T-7, page: /');
  });

  it('is set by hand, host by host, with errors that name the field', async () => {
    const set = (...args: string[]) => cli(['watch', 'set', '--site', SITE, ...args]);
    const done = await set(
      '--third-parties',
      'real',
      '--third-party',
      'Tidecount.localhost=blocked',
      'a.example=real',
    );
    expect(done.out)
      .to.include('Other hosts:     their real answers')
      .and.include('tidecount.localhost: blocked');
    await set('--third-party', 'a.example=usual', 'tidecount.localhost=stand-ins');
    const { data, etag } = await site.stage.client.call('showWatch', { params });
    expect(data.hostAnswers).to.deep.equal([{ host: 'tidecount.localhost', answer: 'stand-ins' }]);
    const seen = await cli(['verify', '--browser', '--site', SITE]);
    expect(seen.out).to.match(/Visit counter +tidecount\.localhost:\d+ +\d answered by a stand-in/);
    expect(told).to.deep.equal([]);
    const wrong = await set('--third-party', 'tidecount.localhost=never');
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.include('is not HOST=ANSWER');
    const hosts = ['https://tide.example', '*.example', 'a.example', 'A.example'];
    const problem = await problemOf(
      site.stage.client.call('setWatch', {
        params,
        ifMatch: etag,
        body: { hostAnswers: hosts.map((host) => ({ host, answer: 'blocked' as const })) },
      }),
    );
    expect(problem.problem.errors?.map(({ pointer }) => pointer)).to.deep.equal([
      '/hostAnswers/0/host',
      '/hostAnswers/1/host',
      '/hostAnswers/3/host',
    ]);
  });

  it('is chosen in the console, which shows what providers were told', async () => {
    const { page, context, problems } = await openConsole(browser, site.stage);
    await page.goto(`/sites/${SITE}/check/watch`);
    await page
      .getByLabel('Other hosts during visits')
      .selectOption({ label: 'Load files, but answer reports here' });
    await page.getByText('No visit appears in anybody’s statistics').waitFor();
    await page.getByRole('button', { name: 'Add a host' }).click();
    await page.getByRole('textbox', { name: 'Host' }).last().fill('no host');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page
      .getByRole('group', { name: 'Other rules for single hosts' })
      .getByText('Write a host name like www.example.com')
      .waitFor();
    await page.getByRole('button', { name: 'Remove the rule for no host' }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText('Saved.').first().waitFor();
    const { data } = await site.stage.client.call('showWatch', { params });
    expect(data).to.deep.include({
      thirdParties: 'stand-ins',
      hostAnswers: [{ host: 'tidecount.localhost', answer: 'stand-ins' }],
    });
    const { round } = await site.verify();
    await page.goto(`/sites/${SITE}/check/browser/${round.number}`);
    const told = page.getByRole('row').filter({ hasText: 'answered by a stand-in' });
    await told.getByText('Visit counter').waitFor();
    expect(await page.getByRole('link', { name: 'Let stand-ins answer instead' }).count()).to.equal(0);
    await page.goto(`/sites/${SITE}/check/browser/${round.number}/1`);
    await page.getByRole('heading', { name: 'What was reported to providers' }).waitFor();
    await page.getByText('T-7').first().waitFor();
    expect(problems.filter((one) => !one.includes('422'))).to.deep.equal([]);
    await context.close();
  });
});
