import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient, type ApiClient, type LiveEvent } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import { eventually } from '../support/http.js';
import { makeMember } from '../support/members.js';
import { startService, readSettings } from '@pragmatica/server';
import { stageEnvironment, startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };

/** Whoever follows a site, with all that they were told. */
interface Following {
  readonly events: LiveEvent[];
  /** Those who are there, as told last: "login place", with a * behind who edits. */
  people(): string[];
  changes(): string[];
  leave(): void;
  /** Resolves when the line has ended, with why. */
  readonly ended: Promise<unknown>;
}

function follow(client: ApiClient, at?: string, editing: 'yes' | 'no' = 'no', site = 'mill'): Following {
  const events: LiveEvent[] = [];
  const left = new AbortController();
  const query = { ...(at === undefined ? {} : { at }), editing };
  const run = async (): Promise<unknown> => {
    try {
      for await (const event of client.stream('followSite', { params: { site }, query }, left.signal))
        events.push(event);
      return 'over';
    } catch (error) {
      return error;
    }
  };
  return {
    events,
    people: () =>
      (
        events.findLast(({ type }) => type === 'people') as Extract<LiveEvent, { type: 'people' }> | undefined
      )?.people.map(
        ({ login, place, isEditing, isYou }) =>
          `${login} ${place}${isEditing ? '*' : ''}${isYou ? ' you' : ''}`,
      ) ?? [],
    changes: () => events.flatMap((event) => (event.type === 'changed' ? [`${event.what} ${event.by}`] : [])),
    leave: () => left.abort(),
    ended: run(),
  };
}

describe('following a site', function () {
  this.timeout(60_000);
  let stage: Stage;
  let isle: ApiClient;
  let isleToken: string;
  const open: Following[] = [];
  const following = (...args: Parameters<typeof follow>): Following => {
    const one = follow(...args);
    open.push(one);
    return one;
  };

  before(async () => {
    stage = await startStage({ hasDemo: false });
    for (const key of ['mill', 'quay']) await stage.client.call('createSite', { body: { key, name: key } });
    isleToken = await makeMember(stage, 'isle', { sites: { mill: 'edit' } });
    isle = createClient({ server: stage.server, token: isleToken, fetch: localhostFetch });
  });
  afterEach(async () => {
    for (const one of open.splice(0)) {
      one.leave();
      await one.ended;
    }
  });
  after(() => stage.close());

  const add = (key: string) =>
    isle.call('createSnippet', {
      params,
      body: { key, name: key, parts: [{ placement: 'head-end', code: `<meta name="${key}" content="1">` }] },
    });

  it('says who else is there, where, and who is changing something', async () => {
    const admin = following(stage.client, 'strip');
    await eventually(() => expect(admin.events).to.have.length.above(0));
    expect(admin.people()).to.deep.equal([]);
    const other = following(isle, 'snippets/chat', 'yes');
    await eventually(() => expect(admin.people()).to.deep.equal(['isle snippets/chat*']));
    await eventually(() => expect(other.people()).to.deep.equal(['admin strip']));
    const second = following(stage.client, 'findings');
    await eventually(() => expect(second.people()).to.deep.equal(['admin strip you', 'isle snippets/chat*']));
    other.leave();
    await eventually(() => expect(admin.people()).to.deep.equal(['admin findings you']));
  });

  it('is told of what others do at once, and of nothing at other sites', async () => {
    const here = following(stage.client);
    const there = following(stage.client, undefined, 'no', 'quay');
    await eventually(() => expect([...here.events, ...there.events]).to.have.length(2));
    await add('counter');
    await eventually(() => expect(here.changes()).to.deep.equal(['site isle']));
    await isle.call('addComment', { params, body: { text: 'Why?', snippet: 'counter' } });
    await eventually(() => expect(here.changes()).to.deep.equal(['site isle', 'comments isle']));
    expect(there.changes()).to.deep.equal([]);
    // Nobody sees whoever gives no place.
    expect(here.people()).to.deep.equal([]);
  });

  it('hears what another process of the service does', async () => {
    const here = following(stage.client, 'strip');
    await eventually(() => expect(here.events).to.have.length.above(0));
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-live-'));
    const other = await startService(readSettings(stageEnvironment(folder)), stage.databaseUrl);
    try {
      const elsewhere = createClient({ server: other.address, token: isleToken, fetch: localhostFetch });
      const second = following(elsewhere, 'snippets/new');
      await eventually(() => expect(here.people()).to.deep.equal(['isle snippets/new']));
      await elsewhere.call('addComment', { params, body: { text: 'From over there', snippet: 'counter' } });
      await eventually(() => expect(here.changes()).to.deep.equal(['comments isle']));
      expect(second.people()).to.deep.equal(['admin strip']);
    } finally {
      await other.close();
      rmSync(folder, { recursive: true, force: true });
    }
    // The service says goodbye when it ends.
    await eventually(() => expect(here.people()).to.deep.equal([]));
  });

  it('ends for whoever is no member any more, and is refused to strangers', async () => {
    await makeMember(stage, 'tegen', { sites: { mill: 'view' } });
    const token = (
      await stage.client.call('signIn', {
        body: { login: 'tegen', password: 'quiet harbour at six', as: 'token' },
      })
    ).data.token!;
    const tegen = following(createClient({ server: stage.server, token, fetch: localhostFetch }), 'strip');
    const here = following(stage.client);
    await eventually(() => expect(here.people()).to.deep.equal(['tegen strip']));
    await stage.client.call('removeSiteRole', { params: { ...params, member: 'tegen' } });
    await tegen.ended;
    await eventually(() => expect(here.people()).to.deep.equal([]));
    const stranger = createClient({ server: stage.server, fetch: localhostFetch });
    expect(await following(stranger, 'strip').ended).to.have.property('status', 401);
    expect(await following(isle, 'strip', 'no', 'quay').ended).to.have.property('status', 404);
  });

  it('is refused to a loop that opens one after the other', async () => {
    const many = Array.from({ length: 41 }, () => following(isle));
    await eventually(() => expect(many.filter(({ events }) => events.length > 0)).to.have.length(40));
    const refused = await Promise.race(many.map(({ ended }) => ended));
    expect(refused).to.have.property('status', 429);
  });

  it('is written as server-sent events for whoever wants those', async () => {
    const left = new AbortController();
    const response = await localhostFetch(`${stage.server}/api/v1/sites/mill/live?at=strip`, {
      headers: { accept: 'text/event-stream', authorization: `Bearer ${isleToken}` },
      signal: left.signal,
    });
    expect(response.headers.get('content-type')).to.equal('text/event-stream');
    expect(response.headers.get('cache-control')).to.equal('no-store');
    expect(response.headers.get('x-accel-buffering')).to.equal('no');
    const reader = response.body!.getReader();
    const { value } = (await reader.read()) as { value: Uint8Array };
    expect(new TextDecoder().decode(value)).to.equal('data: {"type":"people","people":[]}\n\n');
    left.abort();
  });
});
