import { expect } from 'chai';
import pg from 'pg';
import { api, send } from '../support/http.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('signing in', () => {
  let stage: Stage;
  before(async () => (stage = await startStage({ hasDemo: false })));
  after(() => stage.close());

  const call = (method: string, path: string, body?: unknown, headers?: Record<string, string>) =>
    api(stage.server, undefined, method, path, body, headers);

  async function cookie(): Promise<string> {
    const answer = await call('POST', '/sign-in', ADMIN);
    return answer.headers['set-cookie']![0]!.split(';')[0]!;
  }

  it('is needed for everything but health and sign-in', async () => {
    const port = Number(new URL(stage.server).port);
    for (const path of ['/sites', '/session', '/tokens', '/openapi.json', '/sites/x/draft']) {
      const answer = await call('GET', path);
      expect(answer.status, path).to.equal(401);
      expect(answer.headers['content-type']).to.equal('application/problem+json; charset=utf-8');
    }
    expect((await send({ port, path: '/metrics' })).status).to.equal(401);
    expect((await send({ port, path: '/healthz' })).status).to.equal(200);
    expect((await send({ port, path: '/readyz' })).status).to.equal(200);
    expect(
      (await send({ port, path: '/metrics', headers: { authorization: `Bearer ${stage.token}` } })).text,
    ).to.include('process_cpu_user_seconds_total');
  });

  it('with a session gives a cookie that scripts and other sites cannot use', async () => {
    const answer = await call('POST', '/sign-in', ADMIN);
    expect(answer.headers['set-cookie']![0]).to.match(
      /^pragmatica_session=[^;]+;.*HttpOnly; SameSite=Strict/,
    );
    expect(answer.json).to.deep.equal({
      member: { login: 'admin', name: 'Administrator', mustChangePassword: false },
      token: null,
    });
  });

  it('refuses a change by cookie that comes from a page of another site', async () => {
    const headers = { cookie: await cookie(), origin: 'http://evil.test' };
    expect((await call('POST', '/sites', { name: 'x' }, headers)).status).to.equal(403);
    expect((await call('GET', '/sites', undefined, headers)).status).to.equal(200);
  });

  it('says nothing about which half was wrong', async () => {
    const wrongName = await call('POST', '/sign-in', { ...ADMIN, login: 'nobody' });
    const wrongPassword = await call('POST', '/sign-in', { ...ADMIN, password: 'wrong' });
    expect(wrongName.status).to.equal(401);
    expect(wrongName.json).to.deep.equal(wrongPassword.json);
  });

  it('keeps only hashes of passwords and tokens', async () => {
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    const { rows: members } = await client.query<{ password_hash: string }>('select * from member');
    const { rows: credentials } = await client.query<{ hash: string }>('select * from credential');
    await client.end();
    expect(members[0]!.password_hash).to.match(/^\$argon2id\$/);
    for (const credential of credentials) expect(credential.hash).to.match(/^[0-9a-f]{64}$/);
    expect(JSON.stringify([members, credentials]))
      .not.to.include(stage.token)
      .and.not.to.include(ADMIN.password);
  });

  it('lets a token be made, listed and taken back', async () => {
    const { data } = await stage.client.call('createToken', { body: { name: 'build' } });
    expect((await api(stage.server, data.secret, 'GET', '/sites')).status).to.equal(200);
    const names = (await stage.client.call('listTokens', {})).data.items.map((token) => token.name);
    expect(names).to.include('build');
    await stage.client.call('removeToken', { params: { token: data.id } });
    expect((await api(stage.server, data.secret, 'GET', '/sites')).status).to.equal(401);
  });

  it('ends the other sessions when the password changes', async () => {
    const [mine, other] = [await cookie(), await cookie()];
    const body = { current: ADMIN.password, new: 'another long password' };
    expect((await call('PUT', '/session/password', body, { cookie: mine })).status).to.equal(200);
    expect((await call('GET', '/session', undefined, { cookie: mine })).status).to.equal(200);
    expect((await call('GET', '/session', undefined, { cookie: other })).status).to.equal(401);
    const back = { current: 'another long password', new: ADMIN.password };
    expect((await call('PUT', '/session/password', back, { cookie: mine })).status).to.equal(200);
  });

  it('signs out for good', async () => {
    const session = await cookie();
    expect((await call('DELETE', '/session', undefined, { cookie: session })).status).to.equal(204);
    expect((await call('GET', '/session', undefined, { cookie: session })).status).to.equal(401);
  });

  it('makes somebody who guesses wait', async () => {
    let last = 0;
    for (let i = 0; i < 12; i++)
      last = (await call('POST', '/sign-in', { login: 'admin', password: `guess ${i}` })).status;
    expect(last).to.equal(429);
  });
});

describe('the one-time password', () => {
  let stage: Stage;
  before(async () => (stage = await startStage({ hasDemo: false })));
  after(() => stage.close());

  it('must be replaced before anything else', async () => {
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    await client.query('update member set must_change_password = true');
    await client.end();
    const refused = await api(stage.server, stage.token, 'GET', '/sites');
    expect(refused.status).to.equal(403);
    expect(refused.json['type']).to.equal('urn:pragmatica:problem:password-change-required');
    expect((await api(stage.server, stage.token, 'GET', '/session')).status).to.equal(200);
    const asToken = await api(stage.server, undefined, 'POST', '/sign-in', { ...ADMIN, as: 'token' });
    expect(asToken.status).to.equal(403);
    const same = await api(stage.server, undefined, 'POST', '/sign-in', {
      ...ADMIN,
      newPassword: ADMIN.password,
      as: 'token',
    });
    expect(same.json['errors']).to.deep.equal([
      { pointer: '/newPassword', detail: 'Choose another password than the current one.' },
    ]);
    const changed = await api(stage.server, undefined, 'POST', '/sign-in', {
      ...ADMIN,
      newPassword: 'entirely my own',
      as: 'token',
    });
    expect(changed.status).to.equal(200);
  });
});
