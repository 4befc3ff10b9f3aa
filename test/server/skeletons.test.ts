import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';

describe('what the site’s own pages are made of', () => {
  let stage: Stage;
  before(async () => (stage = await startStage()));
  after(() => stage.close());
  const params = { site: 'skerrywick' };

  it('is asked of the origin, each kind of page once, without their texts', async () => {
    const { items } = (await stage.client.call('listSkeletons', { params })).data;
    expect(items.length).to.be.within(2, 16);
    expect(new Set(items.map(({ html }) => html)).size).to.equal(items.length);
    for (const { html } of items) expect(html).to.include('<body').and.not.include('Skerrywick');
    expect(items.some(({ html }) => html.includes('id="booking-widget"'))).to.equal(true);
  });

  it('tells of an element that its pages do not have, and of pages that would be changed', async () => {
    const add = async (name: string, include: string[], code: string) =>
      stage.client.call('createSnippet', {
        params,
        body: {
          name,
          pages: { include, exclude: [] },
          parts: [{ placement: { anchor: 'booking-widget', side: 'inside' }, code }],
        },
      });
    await add('Nowhere', ['/', '/booking'], '<p>Book early</p>');
    const { items } = (await stage.client.call('listFindings', { params, query: { check: 'no-place' } }))
      .data;
    expect(items.map(({ title }) => title)).to.deep.equal(['“Nowhere” has nowhere to go on /']);
    expect(items[0]!.advice).to.include('#booking-widget');
  });

  it('is nothing for a site that does not answer, and the checks go on without', async () => {
    await stage.client.call('createSite', {
      body: {
        key: 'away',
        name: 'Away',
        hosts: [{ host: 'away.test', environment: 'live', origin: 'http://127.0.0.1:9' }],
      },
    });
    const { items } = (await stage.client.call('listSkeletons', { params: { site: 'away' } })).data;
    expect(items).to.deep.equal([]);
  });
});
