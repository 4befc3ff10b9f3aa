import type { TrailCheckEvent } from '@pragmatica/contract';
import { draftChanges, type DraftChange } from '@pragmatica/core';
import { expect } from 'chai';
import pg from 'pg';
import { chainForsaken } from '../../packages/server/dist/storage/trail-chain.js';
import { openDatabase, storeOf } from '../../packages/server/dist/storage/orm.js';
import { callAs, makeMember } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };
const ANY = { 'if-match': '*' };
type Checked = Extract<TrailCheckEvent, { type: 'done' }>;

describe('the trail', function () {
  this.timeout(60_000);
  let stage: Stage;
  let database: pg.Client;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    for (const key of ['mill', 'quay'])
      await stage.client.call('createSite', {
        body: { key, name: `Tide ${key}`, timeZone: 'Europe/Dublin' },
      });
  });
  after(async () => {
    await database.end();
    await stage.close();
  });

  const draft = async () => (await stage.client.call('showDraft', { params })).data.snapshot;
  const newest = async (query: object = {}) =>
    (await stage.client.call('listActivity', { params, query: { limit: 1, ...query } })).data.items[0]!;
  const add = async (name: string, more: object = {}, site = params) =>
    (
      await stage.client.call('createSnippet', {
        params: site,
        body: {
          name,
          parts: [{ placement: 'head-end', code: `<script>var ${name} = 1;</script>` }],
          ...more,
        },
      })
    ).data.key;
  const edit = async (snippet: string, body: object) =>
    stage.client.call('editSnippet', { params: { ...params, snippet }, ifMatch: '*', body });
  const undo = async (entry: number, body: object = {}) =>
    (await stage.client.call('undoActivity', { params: { ...params, entry }, ifMatch: '*', body })).data;
  const verify = async (head?: string): Promise<Checked> => {
    let last: TrailCheckEvent | undefined;
    for await (const event of stage.client.stream('verifyTrail', { query: head ? { head } : {} }))
      last = event;
    return last as Checked;
  };
  const head = async () => (await stage.client.call('showTrailHead', {})).data;

  describe('says of every change of a draft what was there before and after', () => {
    /** What the trail says that the newest entry did, and what really was done. */
    async function told(change: () => Promise<unknown>): Promise<void> {
      const before = await draft();
      await change();
      const { rows } = await database.query<DraftChange>(
        `select kind, key, before, after from trail_change
         where entry_id = (select max(id) from audit where site_id = (select id from site where key = 'mill'))`,
      );
      const byKey = (changes: readonly DraftChange[]) =>
        Object.fromEntries(changes.map((one) => [`${one.kind} ${one.key}`, one]));
      const really = draftChanges(before, await draft());
      expect(really, 'something was changed').not.to.deep.equal([]);
      expect(byKey(rows)).to.deep.equal(JSON.parse(JSON.stringify(byKey(really))));
    }

    it('adding, editing, moving, switching, removing', async () => {
      await told(() => add('first'));
      await told(() => add('second', { state: 'off' }));
      await told(() => edit('first', { note: 'x', limits: { devices: ['phone'] } }));
      await told(() =>
        edit('first', {
          parts: [
            { placement: 'body-end', code: '<script>var a;</script>' },
            { placement: 'head-start', code: '<script>var b;</script>' },
          ],
        }),
      );
      await told(() =>
        edit('first', { parts: [{ placement: 'head-start', code: '<script>var b;</script>' }] }),
      );
      await told(() =>
        stage.client.call('switchSnippets', {
          params,
          body: { snippets: ['first', 'second'], state: 'archived' },
        }),
      );
      const one = { ...params, snippet: 'second' };
      await told(() => stage.client.call('removeSnippet', { params: one, ifMatch: '*' }));
    });

    it('order, definitions, fields, and whole sets that come in', async () => {
      await add('third');
      await add('fourth');
      const { lists: were } = (await stage.client.call('showOrder', { params })).data;
      const lists = were
        .filter(({ placement }) => placement === 'head-end')
        .map((list) => ({ ...list, parts: [...list.parts].reverse() }));
      await told(() => stage.client.call('changeOrder', { params, ifMatch: '*', body: { lists } }));
      const fields = [{ name: 'phone', label: 'Phone', type: 'text' as const }];
      await told(() =>
        stage.client.call('editSite', { params, ifMatch: '*', body: { fields, name: 'Mill' } }),
      );
      await told(() =>
        stage.client.call('changeFields', {
          body: { changes: [{ site: 'mill', name: 'phone', value: '+353 1 555 0100' }] },
        }),
      );
      const set = await draft();
      const fewer = { ...set, snippets: set.snippets.filter(({ key }) => key !== 'third') };
      await told(() =>
        stage.client.call('importSet', {
          params,
          ifMatch: '*',
          body: { set: fewer, removes: true, preview: false },
        }),
      );
    });
  });

  it('says of roles and hosts what they were before', async () => {
    await makeMember(stage, 'isla', { sites: { mill: 'view' } });
    const isla = { ...params, member: 'isla' };
    await stage.client.call('setSiteRole', { params: isla, body: { role: 'edit' } });
    const shown = async () =>
      (await stage.client.call('showActivity', { params: { ...params, entry: (await newest()).id } })).data;
    expect((await shown()).changes).to.deep.equal([
      {
        ...{ kind: 'role', key: 'isla', name: 'Role of isla', was: 'changed', code: [] },
        rows: [{ what: 'role', before: 'view', after: 'edit' }],
      },
    ]);
    const hosts = [{ host: 'mill.example', environment: 'live' as const, origin: 'http://origin.example' }];
    await stage.client.call('editSite', { params, ifMatch: '*', body: { hosts } });
    const { changes } = await shown();
    expect(changes.map(({ kind, key, was }) => ({ kind, key, was }))).to.deep.equal([
      { kind: 'host', key: 'mill.example', was: 'added' },
    ]);
  });

  it('says of access and surveys of a host what they were before, and never the secret', async () => {
    const host = { ...params, host: 'mill.example' };
    const hosts = [{ host: host.host, environment: 'live' as const, origin: 'http://origin.example' }];
    await stage.client.call('editSite', { params, ifMatch: '*', body: { hosts } });
    const body = { kind: 'basic' as const, name: 'crew', value: 'tide-and-time' };
    await stage.client.call('giveAccess', { params: host, body });
    await stage.client.call('setSchedule', { params: host, body: { cron: '0 6 * * 1' } });
    await stage.client.call('setSchedule', { params: host, body: { cron: '0 7 * * 1' } });
    const { rows } = await database.query<{ kind: string; before: object | null; after: object }>(
      `select kind, before, after from trail_change where key = 'mill.example' and kind in ('access', 'schedule') order by id`,
    );
    expect(rows.map(({ kind, before }) => [kind, before === null])).to.deep.equal([
      ['access', true],
      ['schedule', true],
      ['schedule', false],
    ]);
    expect(JSON.stringify(rows)).not.to.contain('tide-and-time');
  });

  it('says from where and by which token something was done, and the address only to owners', async () => {
    const { data } = await stage.client.call('createToken', { body: { name: 'night build' } });
    const part = { placement: 'head-end', code: '<script>var nightly;</script>' };
    await callAs(stage, data.secret, 'POST', '/sites/mill/snippets', { name: 'Nightly', parts: [part] });
    expect(await newest()).to.include({ token: 'night build', address: '127.0.0.1', by: 'admin' });
    const viewer = await makeMember(stage, 'fionn', { sites: { mill: 'edit' } });
    const { json } = await callAs(stage, viewer, 'GET', '/sites/mill/activity?limit=50');
    const items = json['items'] as { address: unknown; token: unknown }[];
    expect(new Set(items.map(({ address }) => address))).to.deep.equal(new Set([null]));
    expect(items.map(({ token }) => token)).to.include('night build');
  });

  it('can be searched: by words, by whoever did it, by snippet, page by page', async () => {
    const key = await add('Findable');
    await edit(key, { note: 'once' });
    await add('Other');
    const of = async (query: object) =>
      (await stage.client.call('listActivity', { params, query })).data.items.map(({ message }) => message);
    expect(await of({ snippet: key })).to.have.length(2);
    expect(await of({ q: 'findable added' })).to.deep.equal(['Added “Findable” to the draft.']);
    expect(await of({ q: '100%' })).to.deep.equal([]);
    expect(await of({ by: 'nobody' })).to.deep.equal([]);
    const first = (await stage.client.call('listActivity', { params, query: { limit: 2 } })).data;
    const second = (
      await stage.client.call('listActivity', { params, query: { limit: 2, after: first.next! } })
    ).data;
    expect(first.items[1]!.id).to.be.above(second.items[0]!.id);
    const all = (await stage.client.call('listTrail', { query: { q: 'token' } })).data.items;
    expect(all.map(({ site }) => site)).to.include(null);
  });

  describe('undoes', () => {
    it('a change after others, and itself', async () => {
      const key = await add('undoable');
      await edit(key, { note: 'first', purpose: 'p' });
      const { id, canUndo } = await newest();
      expect(canUndo).to.equal(true);
      await edit(key, { provider: 'Skipper' });
      const plan = await undo(id, { preview: true });
      expect(plan).to.include({ isDone: false });
      expect(plan.changes).to.have.length(1);
      expect(await undo(id)).to.include({ isDone: true });
      const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: key } });
      expect(data).to.include({ note: '', purpose: '', provider: 'Skipper' });
      await undo((await newest()).id);
      const again = (await stage.client.call('showSnippet', { params: { ...params, snippet: key } })).data;
      expect(again).to.include({ note: 'first', purpose: 'p', provider: 'Skipper' });
    });

    const until = (to: string) => ({ weekly: { mon: [{ from: '09:00', to }] } });

    it('nothing that was changed again before somebody says which of both it is to be', async () => {
      const key = await add('twice');
      await edit(key, { limits: { hours: until('17:00') } });
      const { id } = await newest();
      await edit(key, { limits: { hours: until('12:00') } });
      const { conflicts } = await undo(id, { preview: true });
      expect(conflicts.map((one) => one.id)).to.deep.equal([`${key}/limits/hours`]);
      const path = `/sites/mill/activity/${id}/undo`;
      const refused = await callAs(stage, stage.token, 'POST', path, {}, { 'if-match': '*' });
      expect([refused.status, refused.id]).to.deep.equal([409, 'undo-undecided']);
      await undo(id, { choices: { [`${key}/limits/hours`]: 'before' } });
      const { data } = await stage.client.call('showSnippet', { params: { ...params, snippet: key } });
      expect(data.limits).to.deep.equal({});
    });

    it('nothing over a draft that is another by now', async () => {
      const key = await add('seen');
      await edit(key, { note: 'first' });
      const { id } = await newest();
      const call = { params: { ...params, entry: id }, ifMatch: '*', body: { preview: true } };
      const { etag } = await stage.client.call('undoActivity', call);
      await edit(key, { purpose: 'p' });
      const path = `/sites/mill/activity/${id}/undo`;
      const refused = await callAs(stage, stage.token, 'POST', path, {}, { 'if-match': etag });
      expect([refused.status, refused.id]).to.deep.equal([412, 'changed-since-by']);
    });

    it('the removing of a snippet: it comes back as it was, where it was', async () => {
      const [first, second] = [await add('comesback'), await add('stays')];
      const before = await draft();
      await stage.client.call('removeSnippet', { params: { ...params, snippet: first }, ifMatch: '*' });
      const removed = (await stage.client.call('listRemovedSnippets', { params, query: {} })).data.items;
      expect(removed[0]).to.include({ key: first, name: 'comesback', by: 'admin' });
      await undo(removed[0]!.entry, { only: [first] });
      const byKey = ({ snippets }: typeof before) =>
        Object.fromEntries(snippets.map((snippet) => [snippet.key, snippet]));
      expect(byKey(await draft())).to.deep.equal(byKey(before));
      const left = (await stage.client.call('listRemovedSnippets', { params, query: {} })).data.items;
      expect(left.map(({ key }) => key)).not.to.include(first);
      expect(second).to.equal('stays');
    });

    it('nothing of another site, and nothing that changed no draft', async () => {
      const { id } = await newest();
      const foreign = await callAs(stage, stage.token, 'POST', `/sites/quay/activity/${id}/undo`, {}, ANY);
      expect([foreign.status, foreign.id]).to.deep.equal([404, 'no-such-activity']);
      await stage.client.call('setSiteRole', {
        params: { ...params, member: 'isla' },
        body: { role: 'view' },
      });
      const role = await newest();
      expect(role.canUndo).to.equal(false);
      const nothing = await callAs(
        stage,
        stage.token,
        'POST',
        `/sites/mill/activity/${role.id}/undo`,
        {},
        ANY,
      );
      expect([nothing.status, nothing.id]).to.deep.equal([409, 'nothing-to-undo']);
    });
  });

  describe('is chained', () => {
    it('whole, also where many write at once', async () => {
      const one = await add('atonce');
      const sites = [params, { site: 'quay' }];
      await Promise.all(
        Array.from({ length: 24 }, async (_, index) =>
          index % 3 === 0 ? edit(one, { note: String(index) }) : add(`atonce${index}`, {}, sites[index % 2]),
        ),
      );
      const checked = await verify();
      expect(checked).to.include({ isWhole: true, faults: 0 });
      const { rows } = await database.query<{ n: number }>('select count(*)::int as n from audit');
      expect(checked.links).to.equal(rows[0]!.n);
      expect(checked.head).to.deep.equal(await head());
    });

    it('so that a head kept elsewhere is found in it again', async () => {
      const { number, hash } = await head();
      await add('later');
      expect(await verify(`${number}:${hash}`)).to.include({ isWhole: true });
      const wrong = await verify(`${number}:${'f'.repeat(64)}`);
      expect(wrong.problems.map((one) => one.number)).to.deep.equal([number]);
      expect(wrong.problems[0]!.message).to.contain('The head that you kept');
    });

    it('with what was written before there was a chain, or beside it', async () => {
      await database.query(
        `insert into audit (action, message, "by", at) values ('x', 'from another version', 'admin', now())`,
      );
      const orm = await openDatabase(stage.databaseUrl);
      try {
        expect(await chainForsaken(storeOf(orm).fork())).to.equal(1);
        expect(await chainForsaken(storeOf(orm).fork())).to.equal(0);
      } finally {
        await orm.close(true);
      }
      expect(await verify()).to.include({ isWhole: true });
    });

    for (const [what, sql] of Object.entries({
      'an entry': `update audit set message = 'nothing' where id = (select max(id) from audit)`,
      'what an entry did': `update trail_change set after = '{}' where id = (select max(id) from trail_change)`,
      'an entry that is gone': `delete from trail_change where entry_id = (select max(id) from audit where action = 'undo');
         delete from audit where id = (select max(id) from audit where action = 'undo')`,
      'a link': `update trail_link set hash = repeat('0', 64) where number = 3`,
      'a link that is gone': `delete from trail_link where number = 3`,
    }))
      it(`so that a change by whoever rules the database is told: ${what}`, async () => {
        const statements = sql.split(';');
        const refused = await database.query(statements.at(-1)!).then(
          () => 'done',
          (error: unknown) => String(error),
        );
        expect(refused, 'the database itself refuses').to.contain('only ever added to');
        const check = await tampered(sql);
        expect(check.isWhole).to.equal(false);
        expect(check.faults).to.be.above(0);
      });

    /** What is found once somebody has switched the triggers off and changed something; then it is put back. */
    async function tampered(sql: string): Promise<Checked> {
      const tables = ['audit', 'trail_change', 'trail_link'];
      const backup = `create temp table kept_%I as table %I`;
      for (const table of tables) await database.query(backup.replaceAll('%I', table));
      const off = (word: 'disable' | 'enable') =>
        tables.map((table) => `alter table ${table} ${word} trigger user`).join('; ');
      await database.query(`${off('disable')}; ${sql}`);
      try {
        return await verify();
      } finally {
        await database.query(
          `delete from trail_link; delete from trail_change; delete from audit;
           ${tables.map((table) => `insert into ${table} select * from kept_${table}; drop table kept_${table}`).join('; ')};
           ${off('enable')}`,
        );
        expect(await verify()).to.include({ isWhole: true });
      }
    }
  });
});
