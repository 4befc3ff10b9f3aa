import { expect } from 'chai';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

const COUNTER = '<script>function tally() { (tally.q = tally.q || []).push(arguments); }</script>';

describe('several people at once', () => {
  let stage: Stage;
  const params = { site: 'mill' };
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
  });
  afterEach(() => stage.close());
  const add = async (name: string, code: string, more = {}) =>
    stage.client.call('createSnippet', {
      params,
      body: { name, parts: [{ placement: 'head-end', code }], ...more },
    });
  const findings = async () => (await stage.client.call('listFindings', { params, query: {} })).data;
  const send = (path: string, body: object) =>
    api(stage.server, stage.token, 'POST', `/sites/mill${path}`, body);

  it('mend a finding once', async () => {
    await add('Bare', 'window.visits = 1;');
    const [bare] = (await findings()).items;
    const answers = await Promise.all(
      [1, 2, 3].map(() => send(`/findings/${bare!.id}/fix`, { preview: false })),
    );
    expect(answers.map(({ status }) => status).sort()).to.deep.equal([200, 404, 404]);
    const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: 'bare' } });
    expect(data.parts[0]!.code.match(/<script>/g)).to.have.length(1);
  });

  it('mend different findings without losing one', async () => {
    for (const name of ['One', 'Two', 'Three', 'Four']) await add(name, `window.visits${name} = 1;`);
    const { items } = await findings();
    expect(items).to.have.length(4);
    const answers = await Promise.all(items.map(({ id }) => send(`/findings/${id}/fix`, {})));
    expect(answers.map(({ status }) => status)).to.deep.equal([200, 200, 200, 200]);
    expect((await findings()).items).to.deep.equal([]);
  });

  it('accept one finding: the last reason stays, and there is one waiver', async () => {
    await add('Share', '<script async src="http://sharebuoy.example/share.js"></script>');
    const [share] = (await findings()).items;
    const answers = await Promise.all(
      ['first', 'second', 'third'].map((reason) =>
        send(`/findings/${share!.id}/waive`, { reason, until: '2999-01-01' }),
      ),
    );
    expect(answers.map(({ status }) => status)).to.deep.equal([201, 201, 201]);
    expect((await findings()).waived).to.have.length(1);
  });

  it('put the order right while somebody adds a snippet: nothing is lost', async () => {
    await add('Event', "<script>tally('seen');</script>");
    await add('Counter', COUNTER);
    await Promise.all([
      send('/order/right', {}),
      add('Late', '<meta name="late" content="1">'),
      send('/order/right', {}),
    ]);
    const { data } = await stage.client.call('showOrder', { params });
    expect([...data.lists[0]!.parts].sort()).to.deep.equal(['counter/1', 'event/1', 'late/1']);
    const { data: report } = await stage.client.call('showOrderReport', { params, query: {} });
    expect(report.moves).to.deep.equal([]);
    const ranks = (await stage.client.call('listSnippets', { params })).data.items.map(
      ({ parts }) => parts[0]!.rank,
    );
    expect(new Set(ranks).size).to.equal(3);
  });

  it('publish what was checked: a draft that has changed since is refused, however good it was', async () => {
    await add('Counter', COUNTER);
    const { etag } = await stage.client.call('showDraft', { params });
    await add('Again', COUNTER);
    const { status, json } = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/releases',
      { message: 'm' },
      { 'if-match': etag },
    );
    expect([status, json['type']]).to.deep.equal([412, 'urn:pragmatica:problem:changed-meanwhile']);
  });

  it('keep their sites apart: a waiver of one says nothing of another', async () => {
    await stage.client.call('createSite', { body: { key: 'weir', name: 'Weir' } });
    const code = '<script async src="http://sharebuoy.example/share.js"></script>';
    await add('Share', code);
    await stage.client.call('createSnippet', {
      params: { site: 'weir' },
      body: { name: 'Share', parts: [{ placement: 'head-end', code }] },
    });
    const [share] = (await findings()).items;
    await send(`/findings/${share!.id}/waive`, { reason: 'known', until: '2999-01-01' });
    const other = await stage.client.call('listFindings', { params: { site: 'weir' }, query: {} });
    expect(other.data.items.map(({ id }) => id)).to.deep.equal([share!.id]);
    const { data } = await stage.client.call('listSites', {});
    expect(data.items.map((site) => [site.key, site.findings.warning, site.findings.waived])).to.deep.equal([
      ['mill', 0, 1],
      ['weir', 1, 0],
    ]);
  });
});
