import { expect } from 'chai';
import { settledSites } from '../support/site-lists.js';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

const FAR = '2999-12-31';
const SHARE = '<script async src="http://sharebuoy.example/share.js"></script>';
const EVENT = "<script>tally('seen');</script>";
const COUNTER = '<script>function tally() { (tally.q = tally.q || []).push(arguments); }</script>';

describe('accepting findings, forcing a release, and the order', () => {
  let stage: Stage;
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', {
      body: { key: 'mill', name: 'Tide Mill', timeZone: 'Asia/Tokyo' },
    });
  });
  afterEach(() => stage.close());

  const params = { site: 'mill' };
  const add = async (
    name: string,
    code: string,
    placement: 'head-start' | 'head-end' = 'head-end',
    more = {},
  ) => stage.client.call('createSnippet', { params, body: { name, parts: [{ placement, code }], ...more } });
  const edit = async (snippet: string, body: object) =>
    stage.client.call('editSnippet', { params: { ...params, snippet }, ifMatch: '*', body });
  const findings = async (query: object = {}) =>
    (await stage.client.call('listFindings', { params, query })).data;
  const send = async (path: string, body: object, headers: Record<string, string> = {}) =>
    api(stage.server, stage.token, 'POST', `/sites/mill${path}`, body, headers);
  const publish = async (body: object) => send('/releases', { message: 'm', ...body }, { 'if-match': '*' });
  const waive = async (finding: string, body: object = {}) =>
    stage.client.call('waiveFinding', {
      params: { ...params, finding },
      body: { reason: 'The provider has no https yet', until: FAR, ...body },
    });

  describe('a waiver', () => {
    it('takes a finding off the list, with reason, name and day, and can be taken back', async () => {
      await add('Share', SHARE);
      const [found] = (await findings()).items;
      const { data } = await waive(found!.id);
      expect(data).to.deep.include({ author: 'admin', until: FAR, reason: 'The provider has no https yet' });
      const after = await findings();
      expect(after.items).to.deep.equal([]);
      expect(after.waived[0]).to.deep.include({ id: found!.id, waiver: data });
      expect(after.counts).to.deep.equal({ error: 0, warning: 0, advice: 0, waived: 1 });
      await stage.client.call('removeWaiver', { params: { ...params, finding: found!.id } });
      expect((await findings()).items.map(({ id }) => id)).to.deep.equal([found!.id]);
      const { data: activity } = await stage.client.call('listActivity', { params, query: {} });
      expect(activity.items.map(({ message }) => message).join(' ')).to.include(
        'Reason: The provider has no https yet',
      );
    });

    it('follows its finding while other things change, and ends when what it shows changes', async () => {
      await add('Share', SHARE);
      const [found] = (await findings()).items;
      await waive(found!.id);
      await add('Before', '<meta name="a" content="b">', 'head-start');
      await edit('share', {
        name: 'Share buttons',
        note: 'new',
        parts: [{ placement: 'head-start', code: `<!-- from the provider -->\n${SHARE}` }],
      });
      expect((await findings()).counts.waived).to.equal(1);
      await edit('share', {
        parts: [{ placement: 'head-start', code: SHARE.replace('async ', 'async defer ') }],
      });
      const [back] = (await findings()).items;
      expect(back!.id).to.equal(found!.id);
      expect(back!.lapsed).to.deep.include({ cause: 'changed' });
    });

    it('may be renewed, needs a reason and a day to come, and a finding that is there', async () => {
      await add('Share', SHARE);
      const [found] = (await findings()).items;
      await waive(found!.id);
      expect((await waive(found!.id, { reason: 'Still none' })).data.reason).to.equal('Still none');
      const path = `/findings/${found!.id}/waive`;
      const past = await send(path, { reason: 'because', until: '2020-01-01' });
      expect(past.status).to.equal(422);
      expect(past.body.toString()).to.include('/until').and.include('is already past');
      expect((await send(path, { reason: '', until: FAR })).body.toString()).to.include('/reason');
      expect((await send(path, { reason: 'because', until: '2027-02-30' })).status).to.equal(422);
      expect((await send('/findings/gone-0/waive', { reason: 'because', until: FAR })).status).to.equal(404);
    });

    it('is refused for code that changes the page around it', async () => {
      await add('Box', '<div>open');
      const [found] = (await findings({ check: 'contained' })).items;
      const { status, body } = await send(`/findings/${found!.id}/waive`, { reason: 'because', until: FAR });
      expect(status).to.equal(422);
      expect(body.toString()).to.include('cannot be accepted');
    });

    it('keeps all from fixing what it accepts, unless it is named', async () => {
      await add('Counter', COUNTER);
      await add('Again', COUNTER);
      const [same] = (await findings({ check: 'same-code' })).items;
      await waive(same!.id);
      const all = await stage.client.call('fixFindings', { params, body: {} });
      expect(all.data.fixed).to.deep.equal([]);
      const one = await stage.client.call('fixFinding', {
        params: { ...params, finding: same!.id },
        body: {},
      });
      expect(one.data.fixed.map(({ id }) => id)).to.deep.equal([same!.id]);
    });
  });

  describe('publishing', () => {
    it('is refused for an error, and names it; accepted errors do not count', async () => {
      await add('Counter', COUNTER);
      await add('Again', COUNTER);
      const refused = await publish({});
      expect(refused.status).to.equal(422);
      expect(refused.json['type']).to.equal('urn:pragmatica:problem:errors-found');
      expect(refused.json['errors']).to.have.length(1);
      expect((refused.json['errors'] as { pointer: string }[])[0]!.pointer).to.match(
        /^\/snippets\/\d\/parts\/0\/code$/,
      );
      const [same] = (await findings()).items;
      await waive(same!.id);
      expect((await publish({})).status).to.equal(201);
    });

    it('keeps the reason and the errors in a release that was forced', async () => {
      await add('Counter', COUNTER);
      await add('Again', COUNTER);
      expect((await publish({ force: '' })).status).to.equal(422);
      expect((await publish({ force: 'The fair opens at nine' })).status).to.equal(201);
      const { data } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
      expect(data.forced!.reason).to.equal('The fair opens at nine');
      expect(data.forced!.findings.map(({ check }) => check)).to.deep.equal(['same-code']);
      const { data: activity } = await stage.client.call('listActivity', { params, query: {} });
      expect(activity.items[0]!.message).to.include('Despite 1 error, because: The fair opens at nine');
    });

    it('cannot be forced for code that changes the page, with tags or without', async () => {
      await add('Bare', 'window.visits = 1;');
      const { status, json } = await publish({ force: 'It must be so' });
      expect([status, json['type']]).to.deep.equal([422, 'urn:pragmatica:problem:not-contained']);
    });

    it('shows what is new against the live release', async () => {
      await add('Share', SHARE);
      await publish({});
      await add('Other', SHARE.replace('share.js', 'other.js'));
      expect((await findings()).items).to.have.length(2);
      const fresh = (await findings({ against: 'live' })).items;
      expect(fresh.map(({ subjects }) => subjects[0]!.snippet)).to.deep.equal(['other']);
    });

    it('is told of on the list of sites', async () => {
      await add('Counter', COUNTER);
      await add('Again', COUNTER);
      await add('Share', SHARE);
      const [site] = await settledSites(stage.client);
      expect(site!.findings).to.deep.equal({ error: 1, warning: 1, advice: 0, waived: 0 });
      expect(site!.attention.map(({ message }) => message).join(' ')).to.include('Cannot be published');
    });
  });

  describe('the order', () => {
    const report = async () => (await stage.client.call('showOrderReport', { params, query: {} })).data;

    it('is told in pairs, and put right by the fewest moves after a look', async () => {
      await add('Event', EVENT);
      await add('Last', '<meta name="a" content="b">');
      await add('Counter', COUNTER);
      const { dependencies, moves, cycles } = await report();
      expect(dependencies).to.deep.equal([
        {
          first: 'counter/1',
          then: 'event/1',
          kind: 'name',
          because: '“Event” uses “tally”, which “Counter” defines',
          verdict: 'wrong',
        },
      ]);
      expect(cycles).to.deep.equal([]);
      expect(moves.map(({ sentence }) => sentence)).to.deep.equal([
        'Move “Event” right below “Counter”: “Event” uses “tally”, which “Counter” defines.',
      ]);
      const preview = await stage.client.call('rightOrder', { params, body: { preview: true } });
      expect(preview.data.fixed.map(({ check }) => check)).to.deep.equal(['used-before-defined']);
      expect((await report()).moves).to.have.length(1);
      const { data } = await stage.client.call('rightOrder', { params, body: {} });
      expect(data).to.deep.equal(preview.data);
      expect((await report()).dependencies.map(({ verdict }) => verdict)).to.deep.equal(['fine']);
      const { data: order } = await stage.client.call('showOrder', { params });
      expect(order.lists[0]!.parts).to.deep.equal(['last/1', 'counter/1', 'event/1']);
      expect((await stage.client.call('rightOrder', { params, body: {} })).data.changes).to.deep.equal([]);
    });

    it('counts what somebody stated to come first, and keeps it in the release', async () => {
      await add(
        'Pixel',
        '<script async src="https://glintpixel.example/p.js?id=GP-40-77"></script>',
        'head-end',
        {
          needs: ['ask'],
        },
      );
      await add('Ask', '<script async src="https://biscuitkeel.example/ask.js"></script>');
      expect((await report()).moves).to.have.length(1);
      await stage.client.call('rightOrder', { params, body: {} });
      await publish({});
      const { data } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
      expect(data.snapshot.snippets[0]!.needs).to.deep.equal(['ask']);
    });
  });

  it('keeps the provider’s words with the part, and compares them', async () => {
    const parts = [
      { placement: 'head-end' as const, code: COUNTER, statement: 'Just above the closing body tag.' },
    ];
    await stage.client.call('createSnippet', { params, body: { name: 'Counter', parts } });
    const [found] = (await findings()).items;
    expect(found!.check).to.equal('provider-said');
    // Somebody who edits the code alone does not lose them.
    await edit('counter', { parts: [{ placement: 'head-end', code: `${COUNTER} ` }] });
    expect((await findings()).items.map(({ id }) => id)).to.deep.equal([found!.id]);
    await stage.client.call('fixFinding', { params: { ...params, finding: found!.id }, body: {} });
    const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: 'counter' } });
    expect(data.parts[0]).to.deep.include({
      placement: 'body-end',
      statement: 'Just above the closing body tag.',
    });
  });

  it('shows the code of a fix before and after', async () => {
    await add('Bare', 'window.visits = 1;');
    const [found] = (await findings({ check: 'no-script-tags' })).items;
    const { data } = await stage.client.call('fixFinding', {
      params: { ...params, finding: found!.id },
      body: { preview: true },
    });
    expect(data.code).to.deep.equal([
      { part: 'bare/1', before: 'window.visits = 1;', after: '<script>\nwindow.visits = 1;\n</script>' },
    ]);
  });

  it('has the history of a snippet, release by release, newest first', async () => {
    await add('Counter', COUNTER);
    await publish({ message: 'first' });
    await add('Other', '<meta name="a" content="b">');
    await publish({ message: 'nothing of it' });
    await edit('counter', { parts: [{ placement: 'head-start', code: COUNTER }] });
    await publish({ message: 'moved' });
    await stage.client.call('removeSnippet', { params: { ...params, snippet: 'counter' }, ifMatch: '*' });
    await publish({ message: 'gone' });
    const { data } = await stage.client.call('showHistory', { params: { ...params, snippet: 'counter' } });
    expect(data.items.map(({ release, message }) => [release, message])).to.deep.equal([
      [4, 'gone'],
      [3, 'moved'],
      [1, 'first'],
    ]);
    expect(data.items[0]!.snippet).to.equal(null);
    expect(data.items[1]!.snippet!.parts[0]).to.deep.include({ placement: 'head-start', code: COUNTER });
    expect(data.items[1]!.changes[0]).to.include('moves');
  });
});
