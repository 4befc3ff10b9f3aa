import type { SightingResource } from '@pragmatica/contract';
import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, linking, ownSite, survey, type OwnSite } from '../support/surveys.js';

const SITE = 'skerrywick';

describe('what a survey sees', function () {
  this.timeout(60_000);
  let stage: Stage;
  const sites: OwnSite[] = [];

  before(async () => {
    stage = await startStage({ hasWorker: true });
  });

  after(async () => {
    for (const site of sites) site.close();
    await stage.close();
  });

  const sightings = async (site: string, query = {}): Promise<readonly SightingResource[]> => {
    const params = { site, survey: 'latest' as const };
    return (await stage.client.call('listSightings', { params, query })).data.items;
  };

  const findings = async (site: string): Promise<string[]> => {
    const { data } = await stage.client.call('listFindings', { params: { site }, query: {} });
    return data.items.map(({ check }) => check);
  };

  describe('on the ferry line’s site', () => {
    before(async () => {
      expect(await findings(SITE)).not.to.include('hard-coded');
      await survey(stage, SITE);
    });

    it('is the counter that stands in the theme of the news, beside our own', async () => {
      const [first] = await sightings(SITE, { own: 'hide' });
      expect(first).to.deep.include({
        standing: 'copy',
        name: 'Tallymast visit counter',
        pages: 4,
        match: { snippet: 'visit-counter', part: 'visit-counter/1', kind: 'same' },
        accounts: ['TM-1887'],
        examples: ['/news', '/news/new-vessel', '/news/seal-counting'],
        words:
          'The same code as “Visit counter”, in the site itself. On 4 pages both are there, so it runs twice.',
      });
    });

    it('and what we put there, each piece by its snippet', async () => {
      const ours = await sightings(SITE, { standing: 'ours' });
      expect(new Set(ours.map(({ match }) => match?.snippet))).to.deep.equal(
        new Set([
          'tag-container',
          'cookie-question',
          'newsletter-form',
          'harbour-chat',
          'summer-offer',
          'booking-button',
        ]),
      );
      expect(ours.find(({ states }) => states.includes('noscript'))?.words).to.match(
        /“Tag container”\. It is in a noscript, so only browsers without JavaScript use it\.$/,
      );
    });

    it('shows where it stands and where to remove it, with its surroundings', async () => {
      const [copy] = await sightings(SITE, { standing: 'copy' });
      const { data } = await stage.client.call('showSighting', {
        params: { site: SITE, sighting: copy!.id },
      });
      expect(data.removal).to.equal(
        'It is on 4 pages (/news and /news/*), so it is probably in the template of these pages. Remove it there.',
      );
      expect(data.firstPath).to.match(/^\/news/);
      expect(data.before).to.include('<!-- visits -->');
      expect(data.code).to.match(/^<script async src=.*TM-1887"><\/script>$/);
    });

    it('is a finding, until somebody ignores it, and again when they stop', async () => {
      expect(await findings(SITE)).to.include('hard-coded');
      const [copy] = await sightings(SITE, { standing: 'copy' });
      const params = { site: SITE, sighting: copy!.id };
      await stage.client.call('ignoreSighting', {
        params,
        body: { reason: 'The agency removes it in May.' },
      });
      expect(await findings(SITE)).not.to.include('hard-coded');
      expect(await sightings(SITE, { standing: 'copy' })).to.deep.equal([]);
      const [ignored] = await sightings(SITE, { ignored: 'only' });
      expect(ignored!.ignored).to.include({ reason: 'The agency removes it in May.', by: 'admin' });
      await stage.client.call('heedSighting', { params });
      expect(await findings(SITE)).to.include('hard-coded');
    });

    it('covers the pages: what each section should have, and has', async () => {
      const params = { site: SITE, survey: 'latest' as const };
      const { data } = await stage.client.call('showCoverage', { params });
      expect(
        data.snippets.map(({ snippet, present, expected }) => [snippet, present, expected]),
      ).to.deep.equal([
        ['cookie-question', 21, 21],
        ['tag-container', 21, 21],
        ['visit-counter', 21, 21],
        ['booking-button', 1, 1],
        ['newsletter-form', 19, 19],
        ['harbour-chat', 20, 20],
        ['summer-offer', 2, 2],
      ]);
      expect(data.rows.find(({ section }) => section === '/news')).to.deep.include({ pages: 4 });
    });

    it('tells of each page what it is, with its encoding, its policy and what is in it, in order', async () => {
      const params = { site: SITE, survey: 'latest' as const };
      const show = async (path: string) =>
        (await stage.client.call('showSurveyPage', { params, query: { path } })).data;
      expect(await show('/history')).to.include({ charset: 'windows-1252', charsetFrom: 'meta' });
      const confirmation = await show('/booking/confirmation');
      expect(confirmation.type).to.equal('confirmation');
      expect(confirmation.policies[0]).to.include({ from: 'header', isReportOnly: false });
      const news = await show('/news');
      const counters = news.items.filter(({ name }) => name === 'Tallymast visit counter');
      expect(counters.map(({ standing, part }) => [standing, part])).to.deep.equal([
        ['copy', null],
        ['ours', 'visit-counter/1'],
      ]);
      const starts = news.items.map(({ start }) => start!);
      expect(starts).to.deep.equal([...starts].sort((a, b) => a - b));
    });

    it('is what the checks and the page picker know of the site from then on', async () => {
      const { data } = await stage.client.call('listPages', { params: { site: SITE }, query: {} });
      expect(data).to.deep.include({ source: 'survey', message: '21 pages from survey 1.' });
    });

    it('lists pages by section, type and words, page after page', async () => {
      const params = { site: SITE, survey: 'latest' as const };
      const list = async (query: object) =>
        (await stage.client.call('listSurveyPages', { params, query })).data;
      expect((await list({ section: '/news' })).items.map(({ path }) => path)).to.deep.equal([
        '/news',
        '/news/new-vessel',
        '/news/seal-counting',
        '/news/winter-works',
      ]);
      expect((await list({ type: 'confirmation' })).total).to.equal(1);
      expect((await list({ q: 'winter time' })).items.map(({ path }) => path)).to.deep.equal([
        '/timetables/winter',
      ]);
      const first = await list({ limit: 15 });
      const second = await list({ limit: 15, after: first.next! });
      expect([...first.items, ...second.items]).to.have.length(21);
      expect(second.next).to.equal(null);
      const [copy] = await sightings(SITE, { standing: 'copy' });
      expect((await list({ sighting: copy!.id })).total).to.equal(4);
    });
  });

  describe('is adopted', () => {
    const PIXEL = `<script>window.glint=window.glint||function(){(glint.q=glint.q||[]).push(arguments)};glint('account','GP-7');</script>`;
    const LOADER = '<script async src="https://glintpixel.example/glint.js?id=GP-7"></script>';
    const pages: Record<string, string> = {
      '/': linking('/shop/a', '/shop/b', '/about'),
      '/about': '<p>About</p>',
      '/shop/a': `<head><title>a</title>${LOADER}</head><p>A</p>`,
      '/shop/b': `<head><title>b</title>${LOADER}</head><p>B</p>`,
    };
    const key = 'adopting';

    before(async () => {
      const site = await ownSite(pages);
      sites.push(site);
      await addSite(stage, key, site.port);
      await survey(stage, key);
    });

    it('as a snippet that is off, with the shortest rules for just its pages', async () => {
      const [foreign] = await sightings(key);
      expect(foreign).to.include({ standing: 'foreign', pages: 2 });
      const params = { site: key, sighting: foreign!.id };
      const { data: detail } = await stage.client.call('showSighting', { params });
      expect(detail.proposal).to.deep.include({
        placement: 'head-end',
        rules: { include: ['/shop/*'], exclude: [] },
      });
      const { data } = await stage.client.call('adoptSighting', { params, body: { name: 'Advert pixel' } });
      expect(data.snippet).to.equal('advert-pixel');
      expect(data.words).to.match(/switched off, so that nothing runs twice\..* Then run a survey;/);
      const { data: snippet } = await stage.client.call('showSnippet', {
        params: { site: key, snippet: 'advert-pixel' },
      });
      expect(snippet).to.deep.include({ state: 'off', pages: { include: ['/shop/*'], exclude: [] } });
      expect(snippet.parts[0]).to.deep.include({ placement: 'head-end', code: LOADER });
    });

    it('and is known as one with it from then on; it cannot be adopted twice', async () => {
      const [known] = await sightings(key);
      expect(known).to.include({
        standing: 'copy',
        words:
          '“Advert pixel” installs the same, but is off: this copy in the site itself is the one that runs.',
      });
      expect(known!.adopted).to.include({ snippet: 'advert-pixel', by: 'admin' });
      const failure = await stage.client
        .call('adoptSighting', { params: { site: key, sighting: known!.id }, body: {} })
        .catch((error: unknown) => error as Error);
      expect((failure as Error).message).to.equal(
        '“Glintpixel advert pixel” is already managed by the snippet "advert-pixel".',
      );
    });

    it('and the next survey sees that the copy is gone', async () => {
      pages['/shop/a'] = pages['/shop/b'] = '<head><title>shop</title></head><p>A</p>';
      await survey(stage, key);
      expect(await sightings(key)).to.deep.equal([]);
      const { data } = await stage.client.call('showSurveyChanges', {
        params: { site: key, survey: 'latest' },
      });
      expect(data.lines).to.deep.equal(['Glintpixel advert pixel is gone from the site.']);
    });

    it('with what belongs to it, as further parts', async () => {
      const other = 'adopting-two';
      const image = '<noscript><img src="https://glintpixel.example/p.gif?id=GP-9"></noscript>';
      const site = await ownSite({
        '/': `<head><title>x</title>${LOADER.replace('GP-7', 'GP-9')}</head><body>${linking('/a')}${image}`,
        '/a': '<p>A</p>',
      });
      sites.push(site);
      await addSite(stage, other, site.port);
      await survey(stage, other);
      const all = await sightings(other);
      const [loader, pixel] = ['script', 'pixel'].map((kind) => all.find((one) => one.kind === kind)!);
      const params = { site: other, sighting: loader!.id };
      // Asked twice: the second time it comes from what is remembered.
      for (let i = 0; i < 2; i++) {
        const { data } = await stage.client.call('showSighting', { params });
        expect(data.companions.map(({ id }) => id)).to.deep.equal([pixel!.id]);
      }
      const { data } = await stage.client.call('adoptSighting', { params, body: { with: [pixel!.id] } });
      const { data: snippet } = await stage.client.call('showSnippet', {
        params: { site: other, snippet: data.snippet },
      });
      expect(snippet.parts.map(({ placement }) => placement)).to.deep.equal(['head-end', 'body-end']);
      expect(snippet.parts[1]!.code).to.equal(image);
      // It is known as what was adopted.
      const known = (await sightings(other)).map(({ standing, match }) => [standing, match?.kind]);
      expect(known).to.deep.equal([
        ['copy', 'same'],
        ['copy', 'same'],
      ]);
    });

    it('and the same code for another account is told from it', async () => {
      pages['/shop/a'] = `<head><title>a</title>${PIXEL}${LOADER.replaceAll('GP-7', 'GP-8')}</head><p>A</p>`;
      await survey(stage, key);
      const all = await sightings(key);
      const loader = all.find(({ loads }) => loads.length > 0)!;
      const inline = all.find(({ loads }) => loads.length === 0)!;
      await stage.client.call('adoptSighting', {
        params: { site: key, sighting: inline.id },
        body: { name: 'Shop pixel', with: [] },
      });
      expect(loader.standing).to.equal('altered');
      expect(loader.words).to.equal('Like “Advert pixel”, but for the account GP-8 instead of GP-7.');
    });
  });

  describe('is ours, changed on the way', () => {
    it('where something rewrites it, and a finding says so', async () => {
      const key = 'rewritten';
      const code = '<script async src="https://parlanook.example/chat.js?id=PN-1"></script>';
      // What stands between Pragmatica and the visitor changes the code, and takes it out of one page.
      const site = await ownSite({
        '/': linking('/a', '/b') + code.replace('<script', '<script data-cached'),
        '/a': `<p>x</p>${code.replace('<script', '<script data-cached')}`,
        '/b': '<p>x</p>',
      });
      sites.push(site);
      await addSite(stage, key, site.port);
      await stage.client.call('createSnippet', {
        params: { site: key },
        body: { name: 'Chat', parts: [{ placement: 'body-end', code }] },
      });
      const { etag } = await stage.client.call('showDraft', { params: { site: key } });
      await stage.client.call('publish', { params: { site: key }, ifMatch: etag, body: { message: 'Chat' } });
      await survey(stage, key);
      const [altered] = await sightings(key);
      expect(altered).to.include({ standing: 'altered', pages: 2 });
      expect(await findings(key)).to.include('missing-on-pages');
      const { data } = await stage.client.call('showSighting', {
        params: { site: key, sighting: altered!.id },
      });
      expect(data.ourCode).to.equal(code);
      expect(data.removal).to.match(/^Something between Pragmatica and the visitors/);
      const params = { site: key, survey: 'latest' as const };
      const { data: coverage } = await stage.client.call('showCoverage', { params });
      expect(coverage.snippets[0]!.words).to.match(/^On 0 of 3 pages; missing on /);
    });
  });
});
