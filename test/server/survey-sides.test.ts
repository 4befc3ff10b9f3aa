import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { finished, linking, ownSite, survey, type OwnSite } from '../support/surveys.js';

const PAGE = (more: string): string =>
  `<!DOCTYPE html><html><head><title>t</title><script src="/theme.js"></script></head><body><a href="/a">a</a>${more}</body></html>`;

describe('both sides of a site', function () {
  this.timeout(60_000);
  const site = 'sides';
  const params = { site, survey: 'latest' as const };
  let stage: Stage;
  let origin: OwnSite;
  let visitors: OwnSite;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    origin = await ownSite({ '/': PAGE(''), '/a': PAGE('<p>a</p>'), '/only': linking() });
    // Somebody in between puts adverts into one page, and takes the theme out of another.
    visitors = await ownSite({
      '/': PAGE('<script src="https://bannerquay.example/b.js"></script>'),
      '/a': PAGE('<p>a</p>').replace('<script src="/theme.js"></script>', ''),
    });
    const hosts = [
      {
        ...{ host: `${site}.localhost`, environment: 'live' as const },
        origin: `http://localhost:${origin.port}`,
        address: `http://localhost:${visitors.port}`,
      },
    ];
    await stage.client.call('createSite', { body: { key: site, name: site, hosts } });
  });

  after(async () => {
    origin.close();
    visitors.close();
    await stage.close();
  });

  it('cannot be compared while only one is known', async () => {
    await survey(stage, site);
    const failure = await stage.client
      .call('showSides', { params })
      .catch((error: unknown) => error as Error);
    expect((failure as Error).message).to.include('at the site’s own server');
  });

  it('are asked one after the other, and both are kept', async () => {
    const asked = visitors.asked.length;
    const { data: first } = await stage.client.call('startSurvey', {
      params: { site },
      body: { side: 'both', paths: ['/only'] },
    });
    const { data: list } = await stage.client.call('listSurveys', { params: { site }, query: {} });
    const second = list.items.find(({ after }) => after === first.number)!;
    expect([first.side, second.side, second.state]).to.deep.equal(['public', 'origin', 'waiting']);
    await finished(stage, site, first.number);
    expect((await finished(stage, site, second.number)).state).to.equal('done');
    const last = visitors.asked.slice(asked).at(-1)!;
    expect(origin.asked[0]!.at).to.be.at.least(last.at);
    // What visitors get is what the views are of.
    expect((await stage.client.call('showSurvey', { params })).data.number).to.equal(first.number);
  });

  it('tell what somebody in between does', async () => {
    const { data } = await stage.client.call('showSides', { params });
    expect(data.differences.map(({ what, pages, example }) => [what, pages, example])).to.have.deep.members([
      ['added', 1, '/'],
      ['removed', 1, '/a'],
    ]);
    expect(data.lines.some((line) => line.includes('/only answers only at the site’s own server'))).to.equal(
      true,
    );
    expect(data.ours).to.deep.equal([]);
  });

  it('are both ended when the first is cancelled', async () => {
    const { data: first } = await stage.client.call('startSurvey', {
      params: { site },
      body: { side: 'both', delayMs: 2_000 },
    });
    await stage.client.call('cancelSurvey', { params: { site, survey: first.number } });
    const { data } = await stage.client.call('listSurveys', { params: { site }, query: { limit: 2 } });
    expect(data.items.map(({ state }) => state)).to.deep.equal(['cancelled', 'cancelled']);
  });

  it('are one where nothing stands between them', async () => {
    const address = `http://localhost:${origin.port}`;
    const hosts = [{ host: 'one-side.localhost', environment: 'live' as const, origin: address, address }];
    await stage.client.call('createSite', { body: { key: 'one-side', name: 'one-side', hosts } });
    await survey(stage, 'one-side', { side: 'both' });
    const { data } = await stage.client.call('listSurveys', { params: { site: 'one-side' }, query: {} });
    expect(data.items.map(({ side }) => side)).to.deep.equal(['public']);
  });
});
