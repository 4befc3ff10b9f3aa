import { expect } from 'chai';
import { settledSites } from '../support/site-lists.js';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

const COUNTER = '<script>function tally() { (tally.q = tally.q || []).push(arguments); }</script>';

const PUBLICATIONS = 5;

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

  it('fix a finding once', async () => {
    await add('Bare', 'window.visits = 1;');
    const [bare] = (await findings()).items;
    const answers = await Promise.all(
      [1, 2, 3].map(() => send(`/findings/${bare!.id}/fix`, { preview: false })),
    );
    expect(answers.map(({ status }) => status).sort()).to.deep.equal([200, 404, 404]);
    const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: 'bare' } });
    expect(data.parts[0]!.code.match(/<script>/g)).to.have.length(1);
  });

  it('fix different findings without losing one', async () => {
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

  it('publish what they saw, whatever others add meanwhile; that is told, and one more step away', async () => {
    await add('Counter', COUNTER);
    const { data, etag } = await stage.client.call('showDraft', { params });
    await add('Meanwhile', '<meta name="meanwhile" content="1">');
    const publish = (ifMatch: string) =>
      stage.client.call('publish', { params, ifMatch, body: { message: 'm' } });
    const first = (await publish(etag)).data;
    expect(first.meanwhile).to.deep.equal(['“Meanwhile” is new: at the end of the head, on all pages.']);
    const { data: release } = await stage.client.call('showRelease', {
      params: { ...params, release: first.number },
    });
    expect(release.snapshot).to.deep.equal(data.snapshot);
    const next = await stage.client.call('showDraft', { params });
    expect((await publish(next.etag)).data.meanwhile).to.deep.equal([]);
  });

  it('do not take back in silence what somebody else has published meanwhile', async () => {
    const mine = await stage.client.call('showDraft', { params });
    await add('Theirs', '<meta name="theirs" content="1">');
    await stage.client.call('publish', { params, ifMatch: '*', body: { message: 'theirs' } });
    const { status, json } = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/releases',
      { message: 'm' },
      { 'if-match': mine.etag },
    );
    expect([status, json['type']]).to.deep.equal([412, 'urn:pragmatica:problem:changed-meanwhile']);
    expect(json['detail']).to.include('Somebody else has published').and.include('“Theirs” is new');
  });

  it('publish while twenty others edit: nobody starves', async function () {
    this.timeout(240_000);
    let isOver = false as boolean;
    let edits = 0;
    const editors = Array.from({ length: 20 }, async (_, i) => {
      while (!isOver) {
        await add(`Edit ${i} ${edits++}`, `<meta name="edit" content="${i}-${edits}">`, { state: 'off' });
        await new Promise((done) => setTimeout(done, 30));
      }
    });
    const statuses: number[] = [];
    for (let i = 0; i < PUBLICATIONS; i++) {
      const { etag } = await stage.client.call('showDraft', { params });
      await new Promise((done) => setTimeout(done, 60));
      const { status } = await api(
        stage.server,
        stage.token,
        'POST',
        '/sites/mill/releases',
        { message: `m${i}` },
        { 'if-match': etag },
      );
      statuses.push(status);
    }
    isOver = true;
    await Promise.all(editors);
    expect(edits).to.be.greaterThan(20);
    expect(statuses).to.deep.equal(new Array(PUBLICATIONS).fill(201));
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
    const sites = await settledSites(stage.client);
    expect(sites.map((site) => [site.key, site.findings.warning, site.findings.waived])).to.deep.equal([
      ['mill', 0, 1],
      ['weir', 1, 0],
    ]);
  });
});
