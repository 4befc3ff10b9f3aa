import { createClient, type ApiClient, type RecipeInput } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { ensureAdministrator, openDatabase, storeOf } from '@pragmatica/server';
import { expect } from 'chai';
import pg from 'pg';
import { GAUGE } from '../support/gauge.js';
import { send } from '../support/http.js';
import { refusal } from '../support/refusal.js';
import { PASSWORD, makeMember, makeToken, secretOf } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

const SECOND: RecipeInput = {
  ...GAUGE,
  version: 2,
  changes: 'It loads faster.',
  parts: [
    {
      ...GAUGE.parts[0]!,
      code: '<script async src="https://tidegauge.example/2/g.js?id=@{gauge}"></script>',
    },
  ],
};

describe('members', function () {
  this.timeout(30_000);
  let stage: Stage;
  let admin: ApiClient;
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    admin = stage.client;
    for (const key of ['mill', 'quay', 'lock']) {
      const hosts = [{ host: `${key}.example`, environment: 'live', origin: 'http://127.0.0.1:9' }] as const;
      const fields = [{ name: 'tone', label: 'Tone', type: 'text', value: 'low' }] as const;
      await admin.call('createSite', {
        body: { key, name: `The ${key}`, hosts: [...hosts], fields: [...fields] },
      });
    }
  });
  afterEach(() => stage.close());

  const as = (token: string) => createClient({ server: stage.server, token, fetch: localhostFetch });
  const member = async (...given: Parameters<typeof makeMember> extends [Stage, ...infer R] ? R : never) =>
    as(await makeMember(stage, ...given));
  const addSnippet = (site: string) =>
    admin.call('createSnippet', {
      params: { site },
      body: { name: 'Bell', parts: [{ placement: 'head-end', code: '<script>ring()</script>' }] },
    });

  it('see in lists what is theirs, and no more', async () => {
    await admin.call('importRecipe', { body: GAUGE });
    const targets = ['mill', 'quay'].map((site) => ({ site }));
    await admin.call('applyRecipe', { params: { recipe: GAUGE.key }, body: { targets } });
    await admin.call('importRecipe', { body: SECOND });
    const fionn = await member('fionn', { sites: { mill: 'edit', lock: 'view' } });

    const sites = (await fionn.call('listSites', { query: {} })).data;
    expect(sites.items.map(({ key, rights }) => [key, rights])).to.have.deep.members([
      ['mill', ['view', 'edit']],
      ['lock', ['view']],
    ]);
    expect(sites.counts.all).to.equal(2);
    expect((await fionn.call('listSites', { query: { q: 'quay' } })).data.items).to.deep.equal([]);
    const fields = (await fionn.call('listFields', { query: {} })).data;
    expect(new Set(fields.items.map(({ site }) => site))).to.deep.equal(new Set(['mill', 'lock']));
    expect(fields.names.find(({ name }) => name === 'tone')!.sites).to.equal(2);
    expect((await fionn.call('listFields', { query: { site: 'quay' } })).data.items).to.deep.equal([]);
    const recipes = (await fionn.call('listRecipes', { query: {} })).data;
    expect([recipes.items[0]!.installs, recipes.items[0]!.behind, recipes.behind]).to.deep.equal([1, 1, 1]);
    const { data: recipe } = await fionn.call('showRecipe', { params: { recipe: GAUGE.key } });
    expect(recipe.uses.map(({ site }) => site)).to.deep.equal(['mill']);
    const updates = (await fionn.call('listRecipeUpdates', { query: {} })).data.items;
    expect(updates.map(({ site }) => site)).to.deep.equal(['mill']);
    const nobody = await member('nobody', { sites: { lock: 'view' } });
    await admin.call('removeSiteRole', { params: { site: 'lock', member: 'nobody' } });
    expect((await nobody.call('listSites', { query: {} })).data.items).to.deep.equal([]);
  });

  it('change of several sites those that they may, and hear why not of the others', async () => {
    await admin.call('importRecipe', { body: GAUGE });
    await admin.call('applyRecipe', {
      params: { recipe: GAUGE.key },
      body: { targets: [{ site: 'mill' }, { site: 'quay' }, { site: 'lock' }] },
    });
    await admin.call('importRecipe', { body: SECOND });
    await addSnippet('mill');
    const fionn = await member('fionn', { sites: { mill: 'edit', lock: 'view' } });
    const said = (items: readonly { site: string; isDone: boolean; message: string }[]) =>
      items.map(({ site, isDone, message }) => (isDone ? `${site} done` : `${site}: ${message}`));
    const refused = [
      'quay: There is no site "quay".',
      'lock: You can look at “The lock”, but not change anything there.',
    ];

    const changes = ['mill', 'quay', 'lock'].map((site) => ({ site, name: 'tone', value: 'high' }));
    const fields = await fionn.call('changeFields', { body: { changes } });
    expect(said(fields.data.items)).to.deep.equal(['mill done', ...refused]);

    const updates = await fionn.call('updateFromRecipes', {
      body: { snippets: ['mill', 'quay', 'lock'].map((site) => ({ site, snippet: GAUGE.key })) },
    });
    expect(said(updates.data.items)).to.deep.equal(['mill done', ...refused]);
    expect((await fionn.call('updateFromRecipes', { body: {} })).data.items).to.deep.equal([]);

    const applied = await fionn.call('applyRecipe', {
      params: { recipe: GAUGE.key },
      body: { targets: ['mill', 'quay', 'lock'].map((site) => ({ site })), key: 'second', name: 'Second' },
    });
    expect(said(applied.data.items)).to.deep.equal(['mill done', ...refused]);

    const copied = await fionn.call('copySnippet', {
      params: { site: 'mill', snippet: 'bell' },
      body: { sites: ['quay', 'lock'] },
    });
    expect(said(copied.data.items)).to.deep.equal(refused);
    for (const site of ['quay', 'lock']) {
      const { data } = await admin.call('listSnippets', { params: { site } });
      expect(data.items.map(({ key }) => key)).to.deep.equal([GAUGE.key]);
    }
  });

  it('edit what a draft says of a site, while what works at once is its owners’', async () => {
    const fionn = await member('fionn', { sites: { mill: 'edit' } });
    const isle = await member('isle', { sites: { mill: 'own' } });
    const params = { site: 'mill' };
    const tag = async () => (await admin.call('showSite', { params })).etag;
    const groups = [{ key: 'tides', name: 'Tides', patterns: ['/tides/*'] }];
    const edited = await fionn.call('editSite', {
      params,
      ifMatch: await tag(),
      body: { pageGroups: groups },
    });
    expect(edited.data.pageGroups).to.deep.equal(groups);
    for (const body of [{ hosts: [] }, { name: 'Mine', hosts: [] }]) {
      const { detail, pointer } = await refusal(
        fionn.call('editSite', { params, ifMatch: await tag(), body }),
      );
      expect(detail).to.equal('Only an owner of “The mill” may do that. Ask Somebody isle.');
      expect(pointer).to.equal('/hosts');
    }
    // An owner may take a host, but does not learn whose a taken one is.
    const hosts = [{ host: 'quay.example', environment: 'live', origin: 'http://127.0.0.1:9' }] as const;
    const taking = { params, ifMatch: await tag(), body: { hosts: [...hosts] } };
    expect((await refusal(isle.call('editSite', taking))).detail).to.equal(
      'The host quay.example already belongs to another site.',
    );
    expect((await refusal(admin.call('editSite', taking))).detail).to.equal(
      'The host quay.example already belongs to the site “The quay”.',
    );
  });

  it('make tokens that may less than they do, and never more', async () => {
    await addSnippet('mill');
    const fionn = await member('fionn', { sites: { mill: 'edit', lock: 'view' } });
    const own = await fionn.call('createToken', { body: { name: 'wide', role: 'own' } });
    const wide = as(own.data.secret);
    expect((await wide.call('showSite', { params: { site: 'mill' } })).data.rights).to.deep.equal([
      'view',
      'edit',
    ]);
    expect((await refusal(wide.call('createToken', { body: { name: 'wider' } }))).id).to.equal(
      'token-is-limited',
    );
    const one = await fionn.call('createToken', { body: { name: 'one', sites: ['lock'] } });
    expect([one.data.role, one.data.sites]).to.deep.equal([null, ['lock']]);
    const seen = (await as(one.data.secret).call('listSites', { query: {} })).data.items;
    expect(seen.map(({ key }) => key)).to.deep.equal(['lock']);
    const foreign = fionn.call('createToken', { body: { name: 'foreign', sites: ['lock', 'quay'] } });
    expect(await refusal(foreign)).to.include({ status: 422, detail: 'There is no site "quay".' });
    const listed = (await fionn.call('listTokens', {})).data.items.slice(1);
    expect(listed.map(({ role, sites }) => [role, sites])).to.deep.equal([
      ['own', null],
      [null, ['lock']],
    ]);

    const pipeline = as(await makeToken(stage, { role: 'deploy', sites: ['mill'] }));
    const { etag } = await pipeline.call('showDraft', { params: { site: 'mill' } });
    const published = await pipeline.call('publish', {
      params: { site: 'mill' },
      ifMatch: etag,
      body: { message: 'The bell', environments: ['live'], force: 'Nothing defines ring() yet.' },
    });
    expect(published.data.number).to.equal(1);
    const edit = pipeline.call('removeSnippet', {
      params: { site: 'mill', snippet: 'bell' },
      ifMatch: '"x"',
    });
    expect((await refusal(edit)).id).to.equal('site-right-missing');
  });

  it('come by a link that works once', async () => {
    const invitation = await admin.call('createInvitation', {
      body: { name: 'Fionn of the harbour', sites: [{ site: 'mill', role: 'publish' }] },
    });
    const secret = secretOf(invitation.data);
    const open = as('');
    expect((await open.call('openInvitation', { body: { secret } })).data).to.deep.include({
      ...{ name: 'Fionn of the harbour', by: 'Administrator', role: null },
      sites: [{ siteName: 'The mill', role: 'publish' }],
    });
    const person = { secret, login: 'fionn', name: 'Fionn', password: PASSWORD };
    const short = await refusal(open.call('acceptInvitation', { body: { ...person, password: 'short' } }));
    expect(short.status).to.equal(422);
    for (const login of ['admin', 'set-up']) {
      const taken = await refusal(open.call('acceptInvitation', { body: { ...person, login } }));
      expect(taken).to.include({ status: 409, id: 'login-taken' });
    }
    const answers = await Promise.allSettled(
      ['fionn', 'fionnuala', 'fia'].map((login) =>
        open.call('acceptInvitation', { body: { ...person, login } }),
      ),
    );
    expect(answers.filter(({ status }) => status === 'fulfilled')).to.have.length(1);
    expect((await refusal(open.call('openInvitation', { body: { secret } }))).id).to.equal('invitation-over');
    expect((await admin.call('listMembers', {})).data.items).to.have.length(2);
    expect((await admin.call('listInvitations', {})).data.items).to.deep.equal([]);
  });

  it('are invited by owners, to what is theirs, while it is', async () => {
    const isle = await member('isle', { sites: { mill: 'own', lock: 'edit' } });
    const to = (site: string) => ({ body: { name: 'Bran', sites: [{ site, role: 'view' as const }] } });
    expect(await refusal(isle.call('createInvitation', to('lock')))).to.include({
      status: 403,
      detail: 'Only an owner can invite others, and “The lock” is not yours.',
    });
    expect((await refusal(isle.call('createInvitation', to('quay')))).status).to.equal(422);
    const everywhere = isle.call('createInvitation', { body: { name: 'Bran', role: 'view' } });
    expect((await refusal(everywhere)).id).to.equal('installation-right-missing');
    expect((await refusal(isle.call('createInvitation', { body: { name: 'Bran' } }))).status).to.equal(422);

    const { data: first } = await isle.call('createInvitation', to('mill'));
    const { data: second } = await isle.call('createInvitation', to('mill'));
    const { data: wide } = await admin.call('createInvitation', {
      body: { name: 'Wide', role: 'view', sites: [{ site: 'mill', role: 'edit' }] },
    });
    expect(
      (await isle.call('listInvitations', {})).data.items.map(({ name, role }) => [name, role]),
    ).to.deep.equal([
      ['Wide', null],
      ['Bran', null],
      ['Bran', null],
    ]);
    const withdraw = (client: ApiClient, { id }: { id: number }) =>
      client.call('endInvitation', { params: { invitation: id } });
    expect((await refusal(withdraw(isle, wide))).status).to.equal(404);
    await withdraw(isle, second);
    const opened = (secret: string) => as('').call('openInvitation', { body: { secret } });
    expect((await refusal(opened(secretOf(second)))).id).to.equal('invitation-over');
    await opened(secretOf(first));
    await admin.call('setSiteRole', { params: { site: 'mill', member: 'isle' }, body: { role: 'edit' } });
    expect((await refusal(opened(secretOf(first)))).id).to.equal('invitation-over');

    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    await database.query(`update invitation set expires_at = now() - interval '1 second' where id = $1`, [
      wide.id,
    ]);
    await database.end();
    expect((await refusal(opened(secretOf(wide)))).id).to.equal('invitation-over');
  });

  it('add what another link gives to what they have', async () => {
    const fionn = await member('fionn', { sites: { mill: 'publish' } });
    const { data } = await admin.call('createInvitation', {
      body: {
        name: 'Fionn',
        sites: [
          { site: 'mill', role: 'view' },
          { site: 'quay', role: 'edit' },
        ],
      },
    });
    await fionn.call('joinInvitation', { body: { secret: secretOf(data) } });
    const { items } = (await admin.call('listMembers', {})).data;
    expect(items.find(({ login }) => login === 'fionn')!.sites).to.deep.equal([
      { site: 'mill', siteName: 'The mill', role: 'publish' },
      { site: 'quay', siteName: 'The quay', role: 'edit' },
    ]);
    const again = fionn.call('joinInvitation', { body: { secret: secretOf(data) } });
    expect((await refusal(again)).id).to.equal('invitation-over');
  });

  it('lose what is taken from them with the next call', async () => {
    const fionn = await member('fionn', { sites: { mill: 'edit' } });
    const isle = await member('isle', { sites: { mill: 'own' } });
    const params = { site: 'mill', member: 'fionn' };
    const seen = () => fionn.call('showSite', { params: { site: 'mill' } });
    expect((await seen()).data.rights).to.deep.equal(['view', 'edit']);
    await isle.call('setSiteRole', { params, body: { role: 'view' } });
    expect((await seen()).data.rights).to.deep.equal(['view']);
    await isle.call('removeSiteRole', { params });
    expect((await refusal(seen())).id).to.equal('no-such-site');
    const absent = isle.call('setSiteRole', { params, body: { role: 'view' } });
    expect((await refusal(absent)).id).to.equal('no-such-site-member');
    const general = isle.call('removeSiteRole', { params: { site: 'mill', member: 'admin' } });
    expect((await refusal(general)).id).to.equal('role-is-everywhere');
    await admin.call('removeMember', { params: { member: 'fionn' } });
    expect((await refusal(seen())).status).to.equal(401);
    const { data } = await isle.call('listSiteMembers', { params: { site: 'mill' } });
    expect(
      data.items.map(({ login, role, isEverywhere, isYou }) => [login, role, isEverywhere, isYou]),
    ).to.deep.equal([
      ['admin', 'own', true, false],
      ['isle', 'own', false, true],
    ]);
  });

  it('get no more of an answer that streams once they may not have it', async () => {
    const fionn = await member('fionn', { sites: { mill: 'edit' } });
    const params = { site: 'mill' };
    const { data } = await fionn.call('startSurvey', { params, body: {} });
    // Nobody makes the survey: without an end of their rights the stream would have none.
    const events = fionn.stream('watchSurvey', { params: { ...params, survey: data.number } });
    await events.next();
    const rest = (async () => {
      for await (const event of events) expect(event).to.be.an('object');
    })();
    await admin.call('removeSiteRole', { params: { ...params, member: 'fionn' } });
    const ended = await Promise.race([
      rest.then(
        () => true,
        () => true,
      ),
      new Promise((resolve) => setTimeout(() => resolve(false), 20_000).unref()),
    ]);
    expect(ended).to.equal(true);
  });

  it('keep an owner of the installation at any rate', async () => {
    const you = { params: { member: 'admin' } };
    expect((await refusal(admin.call('removeMember', you))).id).to.equal('last-owner');
    const demote = { ...you, body: { role: null } };
    expect((await refusal(admin.call('editMember', demote))).id).to.equal('last-owner');
    await member('second', { role: 'own' });
    await admin.call('editMember', demote);
    expect((await refusal(admin.call('listMembers', {}))).id).to.equal('installation-right-missing');
  });

  it('are not made by a start of the service once somebody else owns the installation', async () => {
    const orm = await openDatabase(stage.databaseUrl);
    const start = () => ensureAdministrator(storeOf(orm).fork());
    const second = await member('second', { role: 'own' });
    const { data } = await second.call('resetPassword', { params: { member: 'admin' } });
    expect(await start()).to.equal(undefined);
    await as('').call('signIn', { body: { login: 'admin', password: data.password } });
    await second.call('removeMember', { params: { member: 'admin' } });
    expect(await start()).to.equal(undefined);
    expect((await second.call('listMembers', {})).data.items.map(({ login }) => login)).to.deep.equal([
      'second',
    ]);
    await orm.close(true);
  });

  it('who lost their password get another for once', async () => {
    await member('fionn', { sites: { mill: 'edit' } });
    const { data } = await admin.call('resetPassword', { params: { member: 'fionn' } });
    const signIn = (password: string, newPassword?: string) =>
      as('').call('signIn', { body: { login: 'fionn', password, ...(newPassword ? { newPassword } : {}) } });
    expect((await refusal(signIn(PASSWORD))).status).to.equal(401);
    expect((await signIn(data.password)).data.member.mustChangePassword).to.equal(true);
    await signIn(data.password, 'another quiet harbour');
    expect((await signIn('another quiet harbour')).data.member.mustChangePassword).to.equal(false);
  });

  it('see where messages of a site go, while the whole address is for its owners', async () => {
    const params = { site: 'mill' };
    await admin.call('addWebhook', { params, body: { url: 'https://told.example/hook/s3cret?key=1' } });
    const looker = await member('looker', { sites: { mill: 'publish' } });
    const isle = await member('isle', { sites: { mill: 'own' } });
    const seen = async (client: ApiClient) =>
      (await client.call('showWatch', { params })).data.webhooks[0]!.url;
    expect(await seen(isle)).to.equal('https://told.example/hook/s3cret?key=1');
    expect(await seen(looker)).to.equal('https://told.example');
    await admin.call('tryNotices', { params });
    const { items } = (await looker.call('listNotices', { params, query: {} })).data;
    expect(items.map(({ target }) => target)).to.deep.equal(['https://told.example']);
  });

  it('see the figures of the whole installation only with a right to all of it', async () => {
    const port = Number(new URL(stage.server).port);
    const metrics = async (token: string) =>
      (await send({ port, path: '/metrics', headers: { authorization: `Bearer ${token}` } })).status;
    expect(await metrics(await makeMember(stage, 'one', { sites: { mill: 'own' } }))).to.equal(403);
    expect(await metrics(await makeMember(stage, 'all', { role: 'view' }))).to.equal(200);
  });
});
