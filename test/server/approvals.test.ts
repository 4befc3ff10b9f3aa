import type { Environment } from '@pragmatica/contract';
import { expect } from 'chai';
import { PASSWORD, callAs, makeMember, makeToken, secretOf } from '../support/members.js';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };

describe('four eyes', function () {
  this.timeout(60_000);
  let stage: Stage;
  let fionn: string;
  let count = 0;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    await stage.client.call('createSite', { body: { key: 'quay', name: 'Quay' } });
    fionn = await makeMember(stage, 'fionn', { sites: { mill: 'publish' } });
    await add();
    await publish();
    await rule(true);
  });
  after(() => stage.close());

  const rule = async (isNeeded: boolean) =>
    stage.client.call('setApprovalRule', { params, body: { isNeeded } });
  const add = async () =>
    stage.client.call('createSnippet', {
      params,
      body: {
        name: `Snippet ${++count}`,
        parts: [{ placement: 'head-end', code: `<script>var a${count};</script>` }],
      },
    });
  const publish = async (environments: Environment[] = ['live'], token = stage.token) => {
    const body = { message: 'm', environments };
    const { status, json } = await api(stage.server, token, 'POST', '/sites/mill/releases', body, {
      'if-match': '*',
    });
    const { id } = (json['message'] ?? {}) as { id?: string };
    return { status, id, number: json['number'] as number };
  };
  const ask = async (more: object = {}) =>
    (await stage.client.call('askApproval', { params, ifMatch: '*', body: { message: 'Please', ...more } }))
      .data.id;
  const decide = async (id: number, decision = 'approved', token = fionn) =>
    callAs(stage, token, 'POST', `/sites/mill/approvals/${id}/decision`, { decision });
  const state = async (id: number) =>
    (await stage.client.call('showApproval', { params: { ...params, approval: id } })).data.state;

  it('let nothing go live that nobody else has approved, and then just that', async () => {
    await add();
    expect(await publish()).to.include({ status: 409, id: 'approval-missing' });
    const id = await ask();
    expect(await publish()).to.include({ status: 409, id: 'approval-waiting' });
    expect(await decide(id, 'approved', stage.token)).to.include({ status: 409, id: 'approval-own' });
    expect((await decide(id)).status).to.equal(200);
    expect(await state(id)).to.equal('approved');
    const { status, number } = await publish();
    expect(status).to.equal(201);
    const { data } = await stage.client.call('showApproval', { params: { ...params, approval: id } });
    expect(data).to.include({ state: 'published', published: number, decidedBy: 'fionn' });
  });

  it('are for just this draft: any change makes them void, and changing back makes them good again', async () => {
    await add();
    const id = await ask();
    await decide(id);
    const { data } = await add();
    expect(await state(id)).to.equal('void');
    expect(await publish()).to.include({ status: 409, id: 'approval-void' });
    expect(await decide(id)).to.include({ status: 409, id: 'approval-over' });
    await stage.client.call('removeSnippet', { params: { ...params, snippet: data.key }, ifMatch: '*' });
    expect(await state(id)).to.equal('approved');
    expect((await publish()).status).to.equal(201);
  });

  it('show what would change, what the checks find, and whether it was rehearsed and weighed', async () => {
    await add();
    const broken = {
      placement: 'head-end' as const,
      code: '<script src="http://insecure.example/a.js"></script>',
    };
    await stage.client.call('createSnippet', { params, body: { name: 'Unsafe', parts: [broken] } });
    const one = { ...params, snippet: 'snippet-1' };
    const parts = [{ placement: 'head-end' as const, code: '<script>var changed;</script>' }];
    await stage.client.call('editSnippet', { params: one, ifMatch: '*', body: { parts } });
    const id = await ask();
    const { data } = await stage.client.call('showApproval', { params: { ...params, approval: id } });
    expect(data.changes.map(({ message }) => message)).to.include(
      '“Unsafe” is new: at the end of the head, on all pages.',
    );
    expect(data.code).to.deep.equal([
      { part: 'snippet-1/1', before: '<script>var a1;</script>', after: '<script>var changed;</script>' },
    ]);
    expect(data.findings.some(({ isNew, title }) => isNew && title.includes('Unsafe'))).to.equal(true);
    expect(data).to.deep.include({ rehearsal: null, weight: null, whyNot: 'own', siteName: 'Tide Mill' });
    await stage.client.call('removeSnippet', { params: { ...params, snippet: 'unsafe' }, ifMatch: '*' });
  });

  it('can be taken back until it is published, by whoever asked or may publish', async () => {
    await add();
    const [first, second] = [await ask(), await ask()];
    await decide(first);
    expect((await decide(first, 'declined')).status).to.equal(200);
    expect(await publish()).to.include({ id: 'approval-waiting' });
    await stage.client.call('withdrawApproval', { params: { ...params, approval: second } });
    expect(await publish()).to.include({ id: 'approval-missing' });
    const third = await ask();
    const editor = await makeMember(stage, 'editor', { sites: { mill: 'edit' } });
    const path = `/sites/mill/approvals/${third}`;
    expect((await callAs(stage, editor, 'DELETE', path)).status).to.equal(403);
    expect((await callAs(stage, fionn, 'DELETE', path)).status).to.equal(204);
    expect(await decide(third)).to.include({ status: 409, id: 'approval-over' });
  });

  it('are not needed on staging, and then for the release that goes on from there', async () => {
    await add();
    const { number } = await publish(['staging']);
    const live = async () =>
      api(
        stage.server,
        stage.token,
        'PUT',
        '/sites/mill/environments/live',
        { release: number },
        {
          'if-match': '*',
        },
      );
    expect((await live()).status).to.equal(409);
    const id = await ask({ release: number });
    await add();
    expect(await state(id), 'a release never changes').to.equal('open');
    await decide(id);
    expect((await live()).status).to.equal(200);
    expect(await state(id)).to.equal('published');
  });

  it('let what was live before go back at once', async () => {
    const back = async (release: number) =>
      (
        await api(
          stage.server,
          fionn,
          'PUT',
          '/sites/mill/environments/live',
          { release },
          { 'if-match': '*' },
        )
      ).status;
    expect(await back(1), 'from before the rule').to.equal(200);
    expect(await back(2), 'approved when it went live').to.equal(200);
  });

  it('are the rule of owners, who alone make links', async () => {
    const path = '/sites/mill/approval-rule';
    expect((await callAs(stage, fionn, 'PUT', path, { isNeeded: false })).status).to.equal(403);
    await rule(false);
    await add();
    expect((await publish()).status).to.equal(201);
    await rule(true);
    const { items } = (await stage.client.call('listActivity', { params, query: { q: 'approv', limit: 3 } }))
      .data;
    expect(items.map(({ message }) => message)).to.include(
      'From now on somebody else approves what goes live.',
    );
    const id = await askAfterChange();
    const link = `/sites/mill/approvals/${id}/links`;
    expect((await callAs(stage, fionn, 'POST', link, { name: 'Nell' })).status).to.equal(403);
  });

  async function askAfterChange(): Promise<number> {
    await add();
    return ask();
  }

  it('are given by a client with a link, and nothing else', async () => {
    const id = await askAfterChange();
    const { data } = await stage.client.call('linkApproval', {
      params: { ...params, approval: id },
      body: { name: 'Nell' },
    });
    const secret = secretOf(data);
    const open = await callAs(stage, undefined, 'POST', '/approval', { secret });
    expect(open.json).to.include({ state: 'open', siteName: 'Tide Mill', name: 'Nell', whyNot: null });
    const decided = await callAs(stage, undefined, 'POST', '/approval/decision', {
      secret,
      decision: 'approved',
      note: 'Lovely',
    });
    expect(decided.json).to.include({ state: 'approved', note: 'Lovely', decidedBy: 'Nell (link of admin)' });
    expect((await publish()).status).to.equal(201);
    const late = await callAs(stage, undefined, 'POST', '/approval/decision', {
      secret,
      decision: 'declined',
    });
    expect([late.status, late.id]).to.deep.equal([409, 'approval-over']);
    const wrong = await callAs(stage, undefined, 'POST', '/approval', { secret: 'x'.repeat(43) });
    expect([wrong.status, wrong.id]).to.deep.equal([404, 'approval-link-over']);
  });

  it('are not given by a pipeline, which publishes what others approved', async () => {
    const id = await askAfterChange();
    await makeMember(stage, 'bot', { sites: { mill: 'publish' } });
    const { data } = await stage.client.call('signIn', {
      body: { login: 'bot', password: PASSWORD, as: 'token' },
    });
    const made = await callAs(stage, data.token!, 'POST', '/tokens', {
      name: 'build',
      role: 'deploy',
      sites: ['mill'],
    });
    const pipeline = made.json['secret'] as string;
    expect((await decide(id, 'approved', pipeline)).status).to.equal(403);
    await decide(id);
    expect((await publish(['live'], pipeline)).status).to.equal(201);
    expect(await makeToken(stage, { role: 'view' })).to.be.a('string');
  });

  it('ask for nothing where nothing would change, and are another site’s for nobody', async () => {
    const id = await askAfterChange();
    await decide(id);
    await publish();
    const nothing = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/approvals',
      { message: 'x' },
      {
        'if-match': '*',
      },
    );
    expect(nothing.status).to.equal(409);
    expect((await callAs(stage, stage.token, 'GET', `/sites/quay/approvals/${id}`)).status).to.equal(404);
    const list = (await stage.client.call('listApprovals', { params, query: { limit: 2 } })).data;
    expect(list.rule).to.include({ isNeeded: true, by: 'admin' });
    expect(list.items.map((one) => one.id)).to.deep.equal([id, id - 1]);
    expect(list.next).to.be.a('string');
  });
});
