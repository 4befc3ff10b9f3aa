import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import pg from 'pg';
import { codeAt, nextCode } from '../support/authenticator.js';
import { refusal } from '../support/refusal.js';
import { PASSWORD, makeMember } from '../support/members.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('the authenticator of the tests', () => {
  it('shows what RFC 6238 says (appendix B)', () => {
    const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
    const shown = [59, 1111111109, 1111111111, 1234567890, 2000000000].map((s) => codeAt(secret, s * 1000));
    expect(shown).to.deep.equal(['287082', '081804', '050471', '005924', '279037']);
  });
});

describe('a code of an authenticator', function () {
  this.timeout(30_000);
  let stage: Stage;
  let fionn: ApiClient;
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'The mill' } });
    fionn = as(await makeMember(stage, 'fionn', { sites: { mill: 'edit' } }));
  });
  afterEach(() => stage.close());

  const as = (token: string) => createClient({ server: stage.server, token, fetch: localhostFetch });
  const signIn = (code?: string, password = PASSWORD) =>
    as('').call('signIn', { body: { login: 'fionn', password, ...(code === undefined ? {} : { code }) } });

  async function enable(): Promise<{ secret: string; codes: readonly string[] }> {
    const { secret } = (await fionn.call('proposeSecondFactor', {})).data;
    const { codes } = (await fionn.call('enableSecondFactor', { body: { secret, code: codeAt(secret) } }))
      .data;
    return { secret, codes };
  }

  it('changes nothing before it came back', async () => {
    const { data } = await fionn.call('proposeSecondFactor', {});
    expect(data.address).to.match(
      new RegExp(`^otpauth://totp/Pragmatica:fionn\\?issuer=Pragmatica&secret=${data.secret}&`),
    );
    const wrong = codeAt(data.secret, Date.now() - 600_000);
    const enabling = fionn.call('enableSecondFactor', { body: { secret: data.secret, code: wrong } });
    expect(await refusal(enabling)).to.include({ status: 422, id: 'code-wrong', pointer: '/code' });
    expect((await fionn.call('showSecondFactor', {})).data).to.deep.equal({ isOn: false, recoveryCodes: 0 });
    await signIn();
  });

  it('is asked for once the password was right, and works once', async () => {
    const { secret } = await enable();
    expect((await fionn.call('showSecondFactor', {})).data).to.deep.equal({ isOn: true, recoveryCodes: 10 });
    expect((await refusal(signIn(undefined, 'wrong'))).id).to.equal('wrong-password');
    expect(await refusal(signIn())).to.include({ status: 401, id: 'code-needed' });
    expect(await refusal(signIn('000'))).to.include({ id: 'code-not-right', pointer: '/code' });
    // The one that turned it on is used up.
    expect((await refusal(signIn(codeAt(secret)))).id).to.equal('code-not-right');
    const code = nextCode(secret);
    await signIn(`${code.slice(0, 3)} ${code.slice(3)}`);
    expect((await refusal(signIn(code))).id).to.equal('code-not-right');
  });

  it('is replaced once by each recovery code', async () => {
    const { codes } = await enable();
    expect(new Set(codes).size).to.equal(10);
    await signIn(codes[0]);
    expect((await refusal(signIn(codes[0]))).id).to.equal('code-not-right');
    await signIn(codes[1]!.toUpperCase().replaceAll('-', ' '));
    expect((await fionn.call('showSecondFactor', {})).data.recoveryCodes).to.equal(8);
    const { data } = await fionn.call('renewRecoveryCodes', {});
    expect((await refusal(signIn(codes[2]))).id).to.equal('code-not-right');
    await signIn(data.codes[0]);
  });

  it('cannot be guessed', async () => {
    await enable();
    for (let tries = 0; tries < 5; tries++)
      expect((await refusal(signIn('123456'))).id).to.be.oneOf(['code-not-right', 'wait-seconds']);
    expect((await refusal(signIn('123456'))).status).to.equal(429);
  });

  it('is kept where nobody reads it, and ends with a new one-time password', async () => {
    const { secret, codes } = await enable();
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    const { rows } = await database.query<{ all: string }>(
      `select (select string_agg(m::text, ' ') from member m) || (select string_agg(r::text, ' ') from recovery_code r) as all`,
    );
    await database.end();
    expect(rows[0]!.all).to.include('fionn').and.not.include(secret).and.not.include(codes[0]);
    const hasOne = async () =>
      (await stage.client.call('listMembers', {})).data.items.find(({ login }) => login === 'fionn')!
        .hasSecondFactor;
    expect(await hasOne()).to.equal(true);
    const { data } = await stage.client.call('resetPassword', { params: { member: 'fionn' } });
    expect(await hasOne()).to.equal(false);
    await signIn(undefined, data.password);
  });

  it('is turned off by whoever has it', async () => {
    await enable();
    await fionn.call('removeSecondFactor', {});
    await signIn();
    expect((await refusal(fionn.call('renewRecoveryCodes', {}))).id).to.equal('no-second-factor');
  });
});

describe('what matters most', function () {
  this.timeout(30_000);
  let stage: Stage;
  before(async () => {
    stage = await startStage({ hasDemo: false, settings: { PRAGMATICA_CONFIRMATION_MINUTES: '10' } });
  });
  after(() => stage.close());

  const as = (token: string) => createClient({ server: stage.server, token, fetch: localhostFetch });

  it('takes the password again after some minutes, for as many', async () => {
    const { data } = await as('').call('signIn', { body: { ...ADMIN, as: 'token' } });
    const admin = as(data.token!);
    const invite = () => admin.call('createInvitation', { body: { name: 'Fionn', role: 'view' } });
    await invite();
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    await database.query(`update credential set confirmed_at = confirmed_at - interval '11 minutes'`);
    await database.end();
    expect(await refusal(invite())).to.include({ status: 403, id: 'confirm-first' });
    await admin.call('listMembers', {});
    const confirm = (password: string) => admin.call('confirmPassword', { body: { password } });
    expect(await refusal(confirm('wrong'))).to.include({ status: 422, pointer: '/password' });
    expect((await refusal(invite())).id).to.equal('confirm-first');
    const until = Date.parse((await confirm(ADMIN.password)).data.until);
    expect(until - Date.now()).to.be.within(9 * 60_000, 10 * 60_000);
    await invite();
    // A token that somebody else is handed knows no password.
    const made = await admin.call('createToken', { body: { name: 'program' } });
    const program = as(made.data.secret);
    const wider = program.call('createToken', { body: { name: 'another' } });
    expect((await refusal(wider)).id).to.equal('confirm-first');
  });
});
