import { expect } from 'chai';
import { openDatabase, removeExpired } from '@pragmatica/server';
import pg from 'pg';
import { api, eventually, send } from '../support/http.js';
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
      member: {
        login: 'admin',
        name: 'Administrator',
        mustChangePassword: false,
        hasPassword: true,
        role: 'own',
        mail: null,
        language: null,
      },
      token: null,
      tokens: 1,
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

  it('are listed with where they were opened, and end one by one or all but the one that asks', async () => {
    const onPhone = { 'user-agent': 'Mozilla/5.0 (Linux; Android 14) Mobile Safari/537.36' };
    const opened = await call('POST', '/sign-in', ADMIN, onPhone);
    const phone = opened.headers['set-cookie']![0]!.split(';')[0]!;
    const [mine, third] = [await cookie(), await cookie()];
    const list = async (session: string) =>
      (await call('GET', '/sessions', undefined, { cookie: session })).json['items'] as {
        id: number;
        device: string;
        openedFrom: string;
        isThis: boolean;
      }[];
    const [, own, before] = await list(mine);
    expect([own!.isThis, own!.device, own!.openedFrom]).to.satisfy(
      ([isThis, device, from]: [boolean, string, string]) =>
        isThis && device === 'desktop' && /127\.0\.0\.1|::1/.test(from),
    );
    expect([before!.isThis, before!.device]).to.deep.equal([false, 'phone']);
    const end = (id: number | string) => call('DELETE', `/sessions/${id}`, undefined, { cookie: mine });
    expect((await end(before!.id)).status).to.equal(204);
    expect((await call('GET', '/session', undefined, { cookie: phone })).status).to.equal(401);
    const again = await end(before!.id);
    expect([again.status, again.json['detail']]).to.deep.equal([
      404,
      'You have no such session. It may have ended by itself.',
    ]);
    expect((await call('DELETE', '/sessions', undefined, { cookie: mine })).status).to.equal(204);
    expect((await call('GET', '/session', undefined, { cookie: third })).status).to.equal(401);
    expect(await list(mine)).to.have.length(1);
    // Tokens are not sessions, and whoever asks by one ends them all.
    expect((await api(stage.server, stage.token, 'DELETE', '/sessions')).status).to.equal(204);
    expect((await call('GET', '/session', undefined, { cookie: mine })).status).to.equal(401);
    expect((await api(stage.server, stage.token, 'GET', '/sessions')).json['items']).to.deep.equal([]);
  });

  it('of somebody else can be neither seen nor ended', async () => {
    const mine = await cookie();
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    const { rows } = await client.query<{ id: number }>(
      `with other as (
         insert into member (login, name, password_hash, must_change_password, created_at)
         values ('other', 'Other', '!', false, now()) returning id)
       insert into credential (kind, hash, name, member_id, created_at, expires_at)
       select kind, kind, 'x', id, now(), now() + interval '1 day' from other, (values ('session'), ('token')) kinds (kind)
       returning id`,
    );
    for (const { id } of rows)
      for (const what of ['sessions', 'tokens'])
        expect((await call('DELETE', `/${what}/${id}`, undefined, { cookie: mine })).status).to.equal(404);
    const { json } = await call('GET', '/sessions', undefined, { cookie: mine });
    expect((json['items'] as { id: number }[]).map(({ id }) => id)).not.to.include(rows[0]!.id);
    await call('DELETE', '/sessions', undefined, { cookie: mine });
    const left = await client.query('select 1 from credential where id = any($1)', [
      rows.map(({ id }) => id),
    ]);
    expect(left.rowCount).to.equal(2);
    await client.query(`delete from member where login = 'other'`);
    await client.end();
  });

  it('signs out for good', async () => {
    const session = await cookie();
    expect((await call('DELETE', '/session', undefined, { cookie: session })).status).to.equal(204);
    expect((await call('GET', '/session', undefined, { cookie: session })).status).to.equal(401);
  });

  it('makes somebody who guesses wait, longer each time, and nobody else', async () => {
    const guess = (login: string) => call('POST', '/sign-in', { login, password: 'a guess' });
    for (let i = 0; i < 5; i++) expect((await guess('admin')).status).to.equal(401);
    const last = await guess('admin');
    expect(last.status).to.equal(429);
    expect(last.headers['retry-after']).to.equal('1');
    expect(last.json['detail']).to.equal('Too many wrong passwords. Wait 1 second, then try again.');
    // Another login from the same address, and calls that are no attempts, are not held up.
    expect((await guess('somebody')).status).to.equal(401);
    for (let i = 0; i < 20; i++) expect((await call('GET', '/sign-in')).status).to.equal(405);
    await eventually(async () => expect((await call('POST', '/sign-in', { ...ADMIN })).status).to.equal(200));
    expect((await guess('admin')).status, 'the right password forgets the wrong ones').to.equal(401);
  });

  it('makes somebody who guesses at a change of the password wait, too', async () => {
    const guess = (current: string) =>
      call('PUT', '/session/password', { current, new: 'something else entirely' }, bearer());
    let last = 0;
    for (let i = 0; i < 7; i++) last = (await guess(`guess ${i}`)).status;
    expect(last).to.equal(429);
    await eventually(async () => expect((await call('POST', '/sign-in', { ...ADMIN })).status).to.equal(200));
  });

  it('takes as long for names that nobody has, or nobody can use, as for others', async () => {
    // Reserved for filling in the demo; no password fits it.
    await sql(
      "insert into member (login, name, password_hash, must_change_password, created_at) values ('set-up', 'x', '!', false, now())",
    );
    const time = async (login: string): Promise<number> => {
      const begin = performance.now();
      expect((await call('POST', '/sign-in', { login, password: 'wrong' })).status).to.equal(401);
      return performance.now() - begin;
    };
    await time('nobody-0');
    const [unknown, reserved] = [await time('nobody-1'), await time('set-up')];
    expect(reserved).to.be.greaterThan(unknown / 4);
  });

  it('ends sessions and tokens whose time is over, and sweeps them away', async () => {
    const { json } = await call('POST', '/tokens', { name: 'short', days: 1 }, bearer());
    const secret = json['secret'] as string;
    expect((await call('GET', '/session', undefined, bearer(secret))).status).to.equal(200);
    await sql("update credential set expires_at = now() - interval '1 second' where name = 'short'");
    expect((await call('GET', '/session', undefined, bearer(secret))).status).to.equal(401);
    const orm = await openDatabase(stage.databaseUrl);
    expect(await removeExpired(orm.em.fork())).to.equal(1);
    await orm.close(true);
  });

  it('says with a new password how many tokens go on, and ends them when asked', async () => {
    const before = ADMIN.password;
    const next = 'another long and quiet one';
    const changed = await call('PUT', '/session/password', { current: before, new: next }, bearer());
    expect(changed.json['tokens']).to.be.greaterThan(0);
    await call('POST', '/tokens', { name: 'other', days: 1 }, bearer());
    const all = await call(
      'PUT',
      '/session/password',
      { current: next, new: before, endTokens: true },
      bearer(),
    );
    // The one that asks goes on.
    expect(all.json['tokens']).to.equal(1);
  });

  const bearer = (token = stage.token): Record<string, string> => ({ authorization: `Bearer ${token}` });
  const sql = async (statement: string): Promise<void> => {
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    await client.query(statement);
    await client.end();
  };
});

describe('the one-time password', () => {
  let stage: Stage;
  before(async () => (stage = await startStage({ hasDemo: false })));
  after(() => stage.close());

  it('opens nothing for long: a new password ends the sessions of whoever had it', async () => {
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    await client.query('update member set must_change_password = true');
    await client.end();
    const opened = await api(stage.server, undefined, 'POST', '/sign-in', { ...ADMIN });
    const cookie = opened.headers['set-cookie']![0]!.split(';')[0]!;
    const session = () => api(stage.server, undefined, 'GET', '/session', undefined, { cookie });
    expect((await session()).status).to.equal(200);
    const owner = await api(stage.server, undefined, 'POST', '/sign-in', {
      ...ADMIN,
      newPassword: 'chosen by the owner',
    });
    expect(owner.status).to.equal(200);
    expect((await session()).status).to.equal(401);
    await api(stage.server, undefined, 'POST', '/sign-in', {
      login: 'admin',
      password: 'chosen by the owner',
      newPassword: ADMIN.password,
    });
  });

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
      {
        pointer: '/newPassword',
        detail: 'Choose a password other than the current one.',
        message: { id: 'another-password', params: {} },
      },
    ]);
    const changed = await api(stage.server, undefined, 'POST', '/sign-in', {
      ...ADMIN,
      newPassword: 'entirely my own',
      as: 'token',
    });
    expect(changed.status).to.equal(200);
  });
});
