import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, linking, outcomes, ownSite, survey, type OwnSite } from '../support/surveys.js';

describe('pages that are handed over', function () {
  this.timeout(60_000);
  let stage: Stage;
  let site: OwnSite;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    site = await ownSite({});
    await addSite(stage, 'files', site.port);
  });

  after(async () => {
    site.close();
    await stage.close();
  });

  interface Given {
    readonly html: string;
    readonly status?: number;
    readonly headers?: Record<string, string>;
  }

  async function give(pages: Readonly<Record<string, Given>>, set: string = randomUUID()): Promise<string> {
    const body = {
      pages: Object.entries(pages).map(([path, { html, ...rest }]) => ({
        path,
        ...rest,
        body: Buffer.from(html).toString('base64'),
      })),
    };
    await stage.client.call('givePages', { params: { site: 'files', set }, body });
    return set;
  }

  async function refusedAt(call: Promise<unknown>): Promise<unknown> {
    const failure = await call.then(
      () => expect.fail('accepted'),
      (error: unknown) => error,
    );
    expect(failure).to.have.nested.property('problem.status', 422);
    return (failure as { problem: { errors: { pointer: string }[] } }).problem.errors[0]!.pointer;
  }

  const ABOUT = '<!DOCTYPE html><title>About</title><script src="https://cdn.counter.test/c.js"></script>';

  it('are read like those of a server, and nothing is asked of the site', async () => {
    const set = await give({ '/': { html: linking('/about', '/nowhere', '/robots.txt') } });
    await give({ '/about': { html: ABOUT }, '/gone': { html: '<p>gone</p>', status: 404 } }, set);
    const done = await survey(stage, 'files', { given: set, side: 'origin' });
    expect(done).to.include({ state: 'done', found: 3, visited: 3, isGiven: true, side: 'origin' });
    expect(await outcomes(stage, 'files')).to.deep.equal({ '/': 'read', '/about': 'read', '/gone': 'read' });
    expect(site.asked).to.deep.equal([]);
    const params = { site: 'files', survey: done.number } as const;
    const { data } = await stage.client.call('showSurveyPage', { params, query: { path: '/about' } });
    expect(data).to.include({ title: 'About', status: 200, charsetFrom: 'not-declared' });
    expect(data.items.map(({ name }) => name).join()).to.equal('Counter visit counter');
    const gone = await stage.client.call('showSurveyPage', { params, query: { path: '/gone' } });
    expect(gone.data.status).to.equal(404);
  });

  it('are known again where they have not changed, and gone when they have been read', async () => {
    const set = await give({
      '/': { html: linking('/about') },
      '/about': { html: `${ABOUT}<p>new</p>` },
      '/gone': { html: '<p>gone</p>', status: 404 },
    });
    const done = await survey(stage, 'files', { given: set, side: 'origin' });
    expect(done).to.include({ visited: 3, unchanged: 1 });
    const again = await give({ '/': { html: linking('/about') }, '/about': { html: ABOUT } });
    expect(await survey(stage, 'files', { given: again, side: 'origin' })).to.include({
      visited: 2,
      unchanged: 1,
    });
    expect(await refusedAt(survey(stage, 'files', { given: set, side: 'origin' }))).to.equal('/given');
  });

  it('bring their policies along', async () => {
    const headers = {
      ...{ 'Content-Security-Policy': "script-src 'self'", 'Content-Length': '7', Via: 'x' },
      ...{ 'Permissions-Policy': 'camera=()', 'Cross-Origin-Embedder-Policy': 'require-corp' },
    };
    const set = await give({ '/': { html: ABOUT, headers } });
    const done = await survey(stage, 'files', { given: set, side: 'origin' });
    const params = { site: 'files', survey: done.number } as const;
    const { data } = await stage.client.call('showSurveyPage', { params, query: { path: '/' } });
    expect(JSON.stringify(data.policies)).to.include("script-src 'self'");
    expect(data).to.include({ permissionsPolicy: 'camera=()', embedderPolicy: 'require-corp' });
  });

  it('are of one side, and of one site', async () => {
    const set = await give({ '/': { html: ABOUT } });
    expect(await refusedAt(survey(stage, 'files', { given: set, side: 'both' }))).to.equal('/side');
    await addSite(stage, 'others', site.port);
    expect(await refusedAt(survey(stage, 'others', { given: set, side: 'origin' }))).to.equal('/given');
  });

  it('are refused where they are no Base64', async () => {
    const body = { pages: [{ path: '/', body: 'not base64!' }] };
    const call = stage.client.call('givePages', { params: { site: 'files', set: randomUUID() }, body });
    expect(await refusedAt(call)).to.equal('/pages/0/body');
  });
});
