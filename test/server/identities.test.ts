import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import {
  PersonElsewhere,
  startIdentityProvider,
  type RunningIdentityProvider,
} from '../support/identity-provider.js';
import { makeMember, PASSWORD } from '../support/members.js';
import { refusal } from '../support/refusal.js';
import { startStage, type Stage } from '../support/stage.js';

describe('signing in at an identity provider', function () {
  this.timeout(60_000);
  let elsewhere: RunningIdentityProvider;
  let stage: Stage;
  let stranger: ApiClient;
  let fionn: ApiClient;

  before(async () => {
    elsewhere = await startIdentityProvider();
    stage = await startStage({ hasDemo: false, settings: elsewhere.settings });
    elsewhere.homes.push(stage.server);
    await stage.client.call('createSite', { body: { key: 'mill', name: 'The mill' } });
    fionn = as(await makeMember(stage, 'fionn', { sites: { mill: 'edit' } }));
    stranger = as('');
  });
  after(async () => {
    await stage.close();
    await elsewhere.close();
  });
  afterEach(async () => {
    elsewhere.say({});
    for (const { id } of (await fionn.call('listIdentities', {})).data.items)
      await fionn.call('removeIdentity', { params: { identity: id } });
  });

  const as = (token: string) => createClient({ server: stage.server, token, fetch: localhostFetch });

  /** There and back. */
  async function answerOf(
    person: PersonElsewhere,
    isFresh = false,
  ): Promise<{ state: string; answer: string }> {
    const { data } = await stranger.call('beginIdentitySignIn', { body: { isFresh } });
    return { state: data.state, answer: await person.visit(data.address) };
  }

  async function signIn(person: PersonElsewhere): Promise<string> {
    const { data } = await stranger.call('signInWithIdentity', { body: await answerOf(person) });
    return data.login;
  }

  it('is said where it can be done', async () => {
    const { data } = await stranger.call('showSignInWays', {});
    expect(data).to.deep.equal({ identityProvider: { name: 'Harbour ID' } });
    const plain = await startStage({ hasDemo: false });
    try {
      const client = createClient({ server: plain.server, token: '', fetch: localhostFetch });
      expect((await client.call('showSignInWays', {})).data).to.deep.equal({ identityProvider: null });
      const beginning = client.call('beginIdentitySignIn', { body: {} });
      expect(await refusal(beginning)).to.include({ status: 422, id: 'no-identity-provider' });
    } finally {
      await plain.close();
    }
  });

  it('asks in the way that nobody can use but who asked: code, PKCE, state, nonce', async () => {
    const { data } = await stranger.call('beginIdentitySignIn', { body: {} });
    const asked = Object.fromEntries(new URL(data.address).searchParams);
    expect(asked).to.include({
      response_type: 'code',
      code_challenge_method: 'S256',
      client_id: 'pragmatica',
    });
    expect(asked['redirect_uri']).to.equal(`${stage.server}/sign-in/answer`);
    for (const name of ['state', 'nonce', 'code_challenge'])
      expect(asked[name], name).to.have.length.above(40);
    // Nothing of what is kept until then can be read by the browser that carries it.
    expect(Buffer.from(data.state, 'base64').toString('latin1')).not.to.include(asked['state']);
  });

  it('lets in whoever has connected it, and nobody else', async () => {
    const person = new PersonElsewhere('fionn.elsewhere');
    expect(await refusal(signIn(person))).to.include({ status: 403, id: 'identity-unknown' });
    const { data: made } = await fionn.call('addIdentity', { body: await answerOf(person) });
    expect(made).to.include({
      name: 'fionn.elsewhere@skerrywick.example',
      issuer: elsewhere.issuer,
      lastUsedAt: null,
    });
    expect(await signIn(person)).to.equal('fionn');
    const [connected] = (await fionn.call('listIdentities', {})).data.items;
    expect(connected!.lastUsedAt).to.be.a('string');
    const { items } = (await stage.client.call('listMembers', {})).data;
    expect(items.find(({ login }) => login === 'fionn')).to.include({ identities: 1, hasPassword: true });
    await fionn.call('removeIdentity', { params: { identity: made.id } });
    expect((await refusal(signIn(person))).id).to.equal('identity-unknown');
  });

  it('goes by who they are there, not by what they call themselves', async () => {
    await fionn.call('addIdentity', { body: await answerOf(new PersonElsewhere('fionn.real')) });
    elsewhere.say({ email: 'fionn.real@skerrywick.example', preferred_username: 'fionn' });
    const other = new PersonElsewhere('impostor');
    expect(await refusal(signIn(other))).to.include({ status: 403, id: 'identity-unknown' });
  });

  it('connects somebody there with one member here', async () => {
    const person = new PersonElsewhere('shared');
    await fionn.call('addIdentity', { body: await answerOf(person) });
    const greedy = stage.client.call('addIdentity', { body: await answerOf(person) });
    expect(await refusal(greedy)).to.include({ status: 409, id: 'identity-taken' });
  });

  it('takes an answer once, as it came, with what it was asked with', async () => {
    const person = new PersonElsewhere('once');
    await fionn.call('addIdentity', { body: await answerOf(person) });
    const [one, two] = [await answerOf(person), await answerOf(person)];
    const { data } = await stranger.call('beginIdentitySignIn', { body: {} });
    const asked = new URL(data.address).searchParams.get('state')!;
    const tries = {
      'identity-refused': { state: one.state, answer: two.answer },
      'identity-late': { ...two, state: `${two.state.slice(0, -8)}AAAAAAA=` },
      // Whoever would rather not is sent back with an error (RFC 6749, 4.1.2.1).
      'identity-declined': {
        state: data.state,
        answer: `?error=access_denied&state=${asked}&iss=${encodeURIComponent(elsewhere.issuer)}`,
      },
    };
    for (const [id, body] of Object.entries(tries))
      expect((await refusal(stranger.call('signInWithIdentity', { body }))).id, id).to.equal(id);
    const right = await answerOf(person);
    await stranger.call('signInWithIdentity', { body: right });
    const again = stranger.call('signInWithIdentity', { body: right });
    expect(await refusal(again)).to.include({ status: 401, id: 'identity-late' });
    const other = { ...(await answerOf(person)), state: right.state };
    expect((await refusal(stranger.call('signInWithIdentity', { body: other }))).id).to.equal(
      'identity-late',
    );
  });

  it('confirms by signing in anew, not by a session that was still open there', async () => {
    const person = new PersonElsewhere('confirming');
    await fionn.call('addIdentity', { body: await answerOf(person) });
    const open = fionn.call('confirmPassword', { body: { identity: await answerOf(person) } });
    expect(await refusal(open)).to.include({ status: 401, id: 'identity-not-yours' });
    const { data } = await fionn.call('confirmPassword', {
      body: { identity: await answerOf(person, true) },
    });
    expect(Date.parse(data.until)).to.be.above(Date.now());
    const somebody = await answerOf(new PersonElsewhere('somebody'), true);
    const foreign = fionn.call('confirmPassword', { body: { identity: somebody } });
    expect(await refusal(foreign)).to.include({ status: 401, id: 'identity-not-yours' });
    const both = fionn.call('confirmPassword', { body: { password: PASSWORD, identity: somebody } });
    expect(await refusal(both)).to.include({ status: 422, pointer: '/password' });
  });

  it('takes the place of a password for whoever is invited', async () => {
    const { data: invited } = await stage.client.call('createInvitation', {
      body: { name: 'Orla', role: null, sites: [{ site: 'mill', role: 'edit' }] },
    });
    const secret = invited.path.split('#')[1]!;
    const person = new PersonElsewhere('orla');
    const neither = stranger.call('acceptInvitation', { body: { secret, login: 'orla', name: 'Orla' } });
    expect(await refusal(neither)).to.include({ status: 422, pointer: '/password' });
    const accept = async () =>
      stranger.call('acceptInvitation', {
        body: { secret, login: 'orla', name: 'Orla', identity: await answerOf(person) },
      });
    expect((await accept()).data).to.include({
      login: 'orla',
      hasPassword: false,
      mustChangePassword: false,
    });
    expect(await signIn(person)).to.equal('orla');
    for (const password of ['none', 'any password that is long']) {
      const guess = stranger.call('signIn', { body: { login: 'orla', password } });
      expect(await refusal(guess)).to.include({ status: 401, id: 'wrong-password' });
    }
    const { items } = (await stage.client.call('listMembers', {})).data;
    expect(items.find(({ login }) => login === 'orla')).to.include({ identities: 1, hasPassword: false });
    expect((await refusal(accept())).id).to.equal('invitation-over');
  });

  it('leaves nobody without a way in', async () => {
    const { data: invited } = await stage.client.call('createInvitation', {
      body: { name: 'Una', role: null, sites: [{ site: 'mill', role: 'edit' }] },
    });
    const person = new PersonElsewhere('una');
    const body = {
      secret: invited.path.split('#')[1]!,
      login: 'una',
      name: 'Una',
      identity: await answerOf(person),
    };
    const session = await sessionOf('/invitation/accepted', body);
    const [{ id }] = (await session('GET', '/identities')).items as [{ id: number }];
    expect(await session('DELETE', `/identities/${id}`)).to.include({ id: 'confirm-first' });
    const password = { new: 'a password of her own' };
    expect(await session('PUT', '/session/password', password)).to.include({ id: 'confirm-first' });
    const none = { password: 'any' };
    expect(await session('POST', '/session/confirmation', none)).to.include({ id: 'no-password' });
    await session('POST', '/session/confirmation', { identity: await answerOf(person, true) });
    expect(await session('DELETE', `/identities/${id}`)).to.include({ id: 'last-way-in', status: 409 });
    expect(await session('PUT', '/session/password', password)).to.include({ hasPassword: true });
    await session('DELETE', `/identities/${id}`);
    const { data } = await stranger.call('signIn', { body: { login: 'una', password: password.new } });
    expect(data.member.login).to.equal('una');
  });

  it('ends with a one-time password from an owner', async () => {
    const person = new PersonElsewhere('reset');
    const token = await makeMember(stage, 'maeve', { sites: { mill: 'edit' } });
    await as(token).call('addIdentity', { body: await answerOf(person) });
    await stage.client.call('resetPassword', { params: { member: 'maeve' } });
    expect((await refusal(signIn(person))).id).to.equal('identity-unknown');
  });

  it('is said to be away while it is, and all else goes on', async () => {
    const away = await startIdentityProvider();
    const other = await startStage({ hasDemo: false, settings: away.settings });
    const client = createClient({ server: other.server, token: '', fetch: localhostFetch });
    try {
      away.homes.push(other.server);
      await client.call('beginIdentitySignIn', { body: {} });
      await away.close();
      // What it said of itself is known for an hour; the rest needs it.
      const { data } = await client.call('beginIdentitySignIn', { body: {} });
      const state = new URL(data.address).searchParams.get('state')!;
      const answer = `?code=abc&state=${state}&iss=${encodeURIComponent(away.issuer)}`;
      const late = client.call('signInWithIdentity', { body: { state: data.state, answer } });
      expect(await refusal(late)).to.include({ status: 503, id: 'identity-provider-away' });
    } finally {
      await other.close();
    }
    const never = await startStage({ hasDemo: false, settings: away.settings });
    try {
      const beginning = createClient({ server: never.server, token: '', fetch: localhostFetch }).call(
        'beginIdentitySignIn',
        { body: {} },
      );
      expect(await refusal(beginning)).to.include({ status: 503, id: 'identity-provider-away' });
    } finally {
      await never.close();
    }
  });

  it('tells a wrong secret of ours from a mistake of theirs', async () => {
    const wrong = await startStage({
      hasDemo: false,
      settings: { ...elsewhere.settings, PRAGMATICA_OIDC_SECRET: 'another one' },
    });
    const client = createClient({ server: wrong.server, token: '', fetch: localhostFetch });
    elsewhere.homes.push(wrong.server);
    try {
      const { data } = await client.call('beginIdentitySignIn', { body: {} });
      const body = { state: data.state, answer: await new PersonElsewhere('anybody').visit(data.address) };
      const refused = await refusal(client.call('signInWithIdentity', { body }));
      expect(refused).to.include({ status: 503, id: 'identity-client-refused' });
    } finally {
      await wrong.close();
    }
  });

  /** A browser with the session that a call opens. */
  async function sessionOf(path: string, body: object) {
    const opened = await localhostFetch(`${stage.server}/api/v1${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    const cookie = opened.headers.getSetCookie()[0]!.split(';')[0]!;
    return async (method: string, at: string, sent?: object): Promise<Record<string, unknown>> => {
      const answer = await localhostFetch(`${stage.server}/api/v1${at}`, {
        method,
        headers: { cookie, ...(sent ? { 'content-type': 'application/json' } : {}) },
        ...(sent ? { body: JSON.stringify(sent) } : {}),
      });
      const text = await answer.text();
      if (text === '') return {};
      const read = JSON.parse(text) as Record<string, unknown> & { readonly message?: object };
      return { ...read, ...read.message };
    };
  }
});
