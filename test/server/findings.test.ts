import { applyChanges, type SetChange, type Snapshot } from '@pragmatica/core';
import type { FindingResource } from '@pragmatica/contract';
import { expect } from 'chai';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, linking, ownSite, survey } from '../support/surveys.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

describe('reading and findings over the API', () => {
  let stage: Stage;
  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
  });
  after(() => stage.close());

  const params = { site: 'mill' };
  const add = async (key: string, code: string, placement: 'head-end' | 'body-end' = 'head-end') =>
    stage.client.call('createSnippet', { params, body: { key, name: key, parts: [{ placement, code }] } });
  const findings = async (query: object = {}) =>
    (await stage.client.call('listFindings', { params, query })).data;

  const draft = async (): Promise<Snapshot> =>
    withoutDates((await stage.client.call('showDraft', { params })).data.snapshot);
  const withoutDates = (set: Snapshot): Snapshot => ({
    ...set,
    snippets: set.snippets.map(({ stateSince: _, ...snippet }) => snippet),
  });

  it('reads code, says in words what it is, and where its pieces go', async () => {
    const code = `${COUNTER}\n<noscript><iframe src="https://tallymast.example/n.html?id=TM-7731"></iframe></noscript>`;
    const { data } = await stage.client.call('readCode', {
      body: { code, statement: 'as high in the head as possible' },
    });
    expect(data.facts.accounts.map(({ value }) => value)).to.deep.equal(['TM-7731']);
    expect(data.words[0]!.lines[0]).to.include('analytics');
    expect(data.parts.map(({ placement }) => placement)).to.deep.equal(['head-start', 'body-start']);
    expect(data.parts.map((part) => part.code).join('\n')).to.equal(code);
  });

  it('answers a code that is too long, or missing, with a pointer', async () => {
    const { status, body } = await api(stage.server, stage.token, 'POST', '/read', { statement: 'x' });
    expect(status).to.equal(422);
    expect(body.toString()).to.include('/code');
  });

  it('finds nothing in an empty set', async () => {
    const { unknown, ...found } = await findings();
    expect(unknown.map(({ ask }) => ask)).to.include('survey');
    expect(found).to.deep.equal({
      items: [],
      waived: [],
      counts: { error: 0, warning: 0, advice: 0, waived: 0 },
    });
  });

  it('finds, filters and counts', async () => {
    await add('counter', COUNTER);
    await add('statistics', COUNTER.replaceAll('"', "'"));
    await add('bare', 'window.visits = 1;', 'body-end');
    await add('share', '<script async src="http://sharebuoy.example/share.js"></script>', 'body-end');
    const all = await findings();
    expect(all.items.map(({ check }) => check)).to.deep.equal([
      'no-script-tags',
      'same-code',
      'insecure-address',
    ]);
    expect(all.counts).to.deep.equal({ error: 2, warning: 1, advice: 0, waived: 0 });
    const some = await findings({ snippet: 'statistics' });
    expect(some.items.map(({ check }) => check)).to.deep.equal(['same-code']);
    expect(some.counts).to.deep.equal(all.counts);
    expect((await findings({ severity: 'warning' })).items).to.have.length(1);
    expect((await findings({ of: 'live' })).items).to.deep.equal([]);
  });

  it('finds a page rule with a slip of the pen once the pages are known, and puts it right', async () => {
    const own = await ownSite({
      '/': linking('/fares', '/islands'),
      '/fares': linking(),
      '/islands': linking(),
    });
    await addSite(stage, 'isles', own.port);
    const isles = { site: 'isles' };
    await stage.client.call('createSnippet', {
      params: isles,
      body: {
        key: 'fares',
        name: 'Fares',
        pages: { include: ['/Fares'], exclude: [] },
        parts: [{ placement: 'head-end', code: COUNTER }],
      },
    });
    const slips = async (): Promise<FindingResource[]> =>
      (await stage.client.call('listFindings', { params: isles, query: {} })).data.items.filter(
        ({ check }) => check === 'pattern-without-page',
      );
    expect(await slips()).to.deep.equal([]);
    await survey(stage, 'isles');
    const [slip] = await slips();
    expect(slip).to.include({ severity: 'warning' });
    expect(slip!.fix?.title).to.include('/fares');
    await stage.client.call('fixFinding', { params: { ...isles, finding: slip!.id }, body: {} });
    const { snapshot } = (await stage.client.call('showDraft', { params: isles })).data;
    expect(snapshot.snippets[0]!.pages.include).to.deep.equal(['/fares']);
    expect(await slips()).to.deep.equal([]);
    own.close();
  });

  it('shows first what fixing would change, and changes nothing by that', async () => {
    const before = await stage.client.call('showDraft', { params });
    const { data } = await stage.client.call('fixFindings', { params, body: { preview: true } });
    expect(data.fixed.map(({ check }) => check)).to.deep.equal(['no-script-tags', 'same-code']);
    expect(data.changes).to.have.length(2);
    expect(data.left.map(({ check }) => check)).to.deep.equal(['insecure-address']);
    expect(await stage.client.call('showDraft', { params })).to.deep.equal(before);
  });

  it('fixes one by its id, once', async () => {
    const [bare] = (await findings({ check: 'no-script-tags' })).items;
    const body = { findings: [bare!.id] };
    await stage.client.call('fixFindings', { params, body });
    const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: 'bare' } });
    expect(data.parts[0]!.code).to.equal('<script>\nwindow.visits = 1;\n</script>');
    const again = await api(stage.server, stage.token, 'POST', '/sites/mill/fixes', body);
    expect(again.status).to.equal(404);
    expect(again.body.toString()).to.include('/findings/0');
  });

  it('says which finding needs a person', async () => {
    const [share] = (await findings({ check: 'insecure-address' })).items;
    const { status, body } = await api(stage.server, stage.token, 'POST', '/sites/mill/fixes', {
      findings: [share!.id],
    });
    expect(status).to.equal(422);
    expect(body.toString()).to.include('advice says what to do');
  });

  it('fixes all that is left, as the preview said, and writes down who did', async () => {
    await add('form', "<script>document.getElementById('newsletter').hidden = false;</script>");
    const preview = (await stage.client.call('fixFindings', { params, body: { preview: true } })).data;
    const before = await draft();
    const changes = (await findings()).items.flatMap(({ fix }) => fix?.changes ?? []) as SetChange[];
    const { data } = await stage.client.call('fixFindings', { params, body: {} });
    expect(data).to.deep.equal(preview);
    expect(await draft(), 'what is stored is what core works out').to.deep.equal(
      withoutDates(applyChanges(before, changes)),
    );
    expect((await findings()).items).to.deep.equal(data.left);
    const { data: off } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'statistics' },
    });
    expect(off.state).to.equal('off');
    const { data: moved } = await stage.client.call('showSnippet', {
      params: { ...params, snippet: 'form' },
    });
    expect(moved.parts[0]!.placement).to.equal('body-end');
    const { data: activity } = await stage.client.call('listActivity', { params, query: {} });
    expect(activity.items[0]!.message).to.match(/^Fixed 2 findings\./);
  });

  it('keeps the other parts of a snippet as they were when one is taken out', async () => {
    await stage.client.call('createSnippet', {
      params,
      body: {
        key: 'double',
        name: 'Double',
        parts: [
          { placement: 'head-end', code: COUNTER },
          { placement: 'body-end', code: '<p>last</p>' },
        ],
      },
    });
    const ranks = async () =>
      (await stage.client.call('showSnippet', { params: { ...params, snippet: 'double' } })).data.parts;
    const [, last] = await ranks();
    await stage.client.call('fixFindings', { params, body: {} });
    expect(await ranks()).to.deep.equal([last]);
  });
});
