import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { Readable } from 'node:stream';
import { join } from 'node:path';
import { readBackup, writeBackup, type BackupManifest } from '@pragmatica/backup';
import { ApiError, createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import pg from 'pg';
import { MOVED, SHARED, STAYS } from '../../packages/server/dist/storage/copies/bring-site.js';
import { COPIED, LEFT_OUT } from '../../packages/server/dist/storage/copies/tables.js';
import { bringBack, bytesOf, restore, settled, sql, takeBackup } from '../support/backups.js';
import { callAs, makeMember } from '../support/members.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

const SITE = { site: 'skerrywick' };

async function problemOf(
  work: Promise<unknown>,
): Promise<{ id: string | undefined; status: number; detail: string }> {
  try {
    await work;
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    const { status, problem, message } = error;
    return { id: problem.message?.id, status, detail: message };
  }
  return expect.fail('It was done.');
}

async function itemsOf(
  backup: Uint8Array,
): Promise<{ manifest: BackupManifest; tables: Map<string, string> }> {
  let manifest: BackupManifest | undefined;
  const tables = new Map<string, string>();
  async function* once() {
    yield await Promise.resolve(backup);
  }
  for await (const item of readBackup(once())) {
    if (item.type === 'manifest') manifest = item.manifest;
    if (item.type === 'rows')
      tables.set(
        item.table.name,
        (tables.get(item.table.name) ?? '') + Buffer.from(item.bytes).toString('utf8'),
      );
  }
  return { manifest: manifest!, tables };
}

/** A backup with other tables, or another manifest, and sums that fit. */
async function rewritten(
  backup: Uint8Array,
  change: (given: { manifest: BackupManifest; tables: Map<string, string> }) => void,
): Promise<Buffer> {
  const given = await itemsOf(backup);
  change(given);
  for (const table of given.manifest.tables)
    table.rows = (given.tables.get(table.name) ?? '').split('\n').length - 1;
  async function* all() {
    for (const { name } of given.manifest.tables) {
      await Promise.resolve();
      yield { name, rows: bytes(given.tables.get(name) ?? '') };
    }
  }
  async function* bytes(text: string) {
    yield await Promise.resolve(Buffer.from(text));
  }
  const chunks: Uint8Array[] = [];
  for await (const chunk of writeBackup(given.manifest, null, all())) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** All rows of a table as text, but for columns that mean something in one database only. */
async function rowsOf(stage: Stage, table: string, without: readonly string[] = []): Promise<string[]> {
  const columns = await sql<{ name: string }>(
    stage,
    `select column_name as name from information_schema.columns where table_schema = 'public' and table_name = $1
     order by ordinal_position`,
    [table],
  );
  const list = columns.map(({ name }) => name).filter((name) => !without.includes(name));
  const rows = await sql<{ row: string }>(
    stage,
    `select row_to_json(t)::text as row from (select ${list.map((name) => `"${name}"`).join()} from "${table}") t order by 1`,
  );
  return rows.map(({ row }) => row);
}

describe('backups', function () {
  this.timeout(120_000);
  let stage: Stage;
  let backup: Buffer;
  const others: Stage[] = [];
  const empty = async (settings: Record<string, string> = {}): Promise<Stage> => {
    const other = await startStage({ hasDemo: false, settings });
    others.push(other);
    return other;
  };

  before(async () => {
    stage = await startStage({ isWhole: true });
    const host = { site: 'skerrywick', host: 'staging.skerrywick.localhost' };
    await stage.client.call('giveAccess', {
      params: host,
      body: { kind: 'basic', name: 'editor', value: 'lee shore: 42' },
    });
    await stage.client.call('addWebhook', { params: SITE, body: { url: 'https://hooks.example.com/a' } });
    await makeMember(stage, 'inga', { sites: { skerrywick: 'publish' } });
    // What takes a browser and a walk to come by, with bytes that are no text.
    await sql(
      stage,
      `with round as (
         insert into visit_round (site_id, number, host, environment, delivery, options, requested_by, state)
         select id, 1, 'skerrywick.localhost', 'live', 'gateway', '{}', 'admin', 'running' from site where key = 'skerrywick'
         returning id),
       visit as (
         insert into visit (round_id, number, path, title, because, script, state, evidence)
         select id, 1, '/', E'tab\\t back\\\\slash \\n line', 'é 🚢', '{"a": [1, null]}', 'done',
           decode('00ff0a5c2e0a5c2e', 'hex') from round returning id)
       insert into visit_screenshot select id, 1, decode(repeat('0a5c', 200000), 'hex') from visit`,
    );
    await sql(
      stage,
      `insert into notice (public_id, site_id, channel, target, subject, body) select 'msg_1', id, 'mail', 'a@example.com', 's', 'b'
       from site where key = 'skerrywick'`,
    );
    backup = await takeBackup(stage);
  });

  after(async () => {
    await stage.close();
    for (const other of others) await other.close();
  });

  it('know every table of the database, or say why it stays', async () => {
    const tables = await sql<{ name: string }>(
      stage,
      `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace`,
    );
    const known = [...COPIED.map(({ name }) => name), ...Object.keys(LEFT_OUT)];
    expect(known.toSorted()).to.deep.equal(
      tables.map(({ name }) => name).toSorted(),
      'Put a new table into COPIED or LEFT_OUT of storage/copies/tables.ts.',
    );
  });

  it('know of every table whether it comes with a single site, or why not', () => {
    const known = [...MOVED, ...SHARED].map(({ table }) => table);
    // The site itself, and versions of recipes that its snippets follow.
    const said = ['site', 'recipe', ...known, ...Object.keys(STAYS)];
    expect(said.toSorted()).to.deep.equal(
      COPIED.map(({ name }) => name).toSorted(),
      'Put a new table into MOVED or STAYS of storage/copies/bring-site.ts.',
    );
  });

  it('restore everything into an empty installation, as it was', async () => {
    const other = await empty();
    const done = await restore(other, backup);
    expect(done).to.include({ sites: 5, members: 2, isTrailWhole: true });
    expect(done.lost).to.deep.equal([]);
    for (const { name, leaves = [] } of COPIED) {
      const without = [...leaves];
      if (name === 'member') without.push('second_factor');
      if (name === 'host_access' || name === 'webhook') without.push('sealed');
      if (['visit_round', 'notice'].includes(name)) without.push('state', 'ended_at', 'answer', 'next_at');
      if (name === 'credential') without.push('last_used_at');
      const there = await rowsOf(other, name, without);
      // It has said that it was restored, and that is counted.
      if (name === 'audit' || name === 'trail_link') there.pop();
      const is = name === 'audit' || name === 'trail_link' || name === 'site_summary' ? there.length : there;
      const all = await rowsOf(stage, name, without);
      const was = name === 'credential' ? all.filter((row) => !row.includes('"kind":"session"')) : all;
      if (typeof is === 'number') expect(is).to.equal(was.length, name);
      else expect(is).to.deep.equal(was, name);
    }
    const [notice] = await sql<{ state: string; answer: string }>(other, 'select state, answer from notice');
    expect(notice).to.deep.equal({
      state: 'failed',
      answer: 'Not sent: it was waiting when the backup was made.',
    });
    expect(await sql(other, 'select state from visit_round')).to.deep.equal([{ state: 'cancelled' }]);
  });

  it('let everybody sign in as they did, and go on from there', async () => {
    const other = others.at(-1)!;
    const client = createClient({ server: other.server, fetch: localhostFetch });
    const { data } = await client.call('signIn', { body: { ...ADMIN, as: 'token' } });
    const signed = createClient({ server: other.server, token: data.token!, fetch: localhostFetch });
    let checked;
    for await (const event of signed.stream('verifyTrail', { query: {} })) checked = event;
    expect(checked).to.include({ type: 'done', isWhole: true });
    const { items } = (await signed.call('listTrail', { query: { limit: 5 } })).data;
    expect(items.map(({ message }) => message).join('\n')).to.include(
      'Restored the installation from the backup of 2',
    );
    // New rows get numbers that nothing ever had, and guards are in force.
    await signed.call('createSnippet', {
      params: SITE,
      body: { name: 'New', parts: [{ placement: 'head-end', code: '<script>1</script>' }] },
    });
    const { etag } = await signed.call('showDraft', { params: SITE });
    const { data: release } = await signed.call('publish', {
      params: SITE,
      ifMatch: etag,
      body: { message: 'After', force: 'as a test' },
    });
    expect(release.number).to.equal(2);
    expect(
      await sql(other, `update release set message = 'x'`).catch((error: unknown) => String(error)),
    ).to.include('immutable');
    const token = createClient({ server: other.server, token: stage.token, fetch: localhostFetch });
    expect((await token.call('listSites', { query: {} })).data.counts.all).to.equal(5);
  });

  it('open with the new key what was sealed with the old one', async () => {
    const other = others.at(-1)!;
    const sealed = async (of: Stage) =>
      (await sql<{ sealed: string }>(of, 'select sealed from host_access')).map((row) => row.sealed);
    expect(await sealed(other)).to.not.deep.equal(await sealed(stage));
    // Restored once more, without any key, it cannot be opened, and is said so.
    const third = await empty();
    const done = await restore(third, await takeBackup(stage, { withoutKey: '1' }));
    expect(done.lost).to.deep.equal([
      { kind: 'host-access', name: 'staging.skerrywick.localhost', site: 'skerrywick' },
      { kind: 'webhook', name: 'https://hooks.example.com/a', site: 'skerrywick' },
    ]);
  });

  it('are of one moment, and let everybody go on meanwhile', async () => {
    const stream = await stage.client.download('takeBackup', { query: {} });
    const reader = stream.getReader();
    const first = (await reader.read()).value!;
    await stage.client.call('editSnippet', {
      params: { ...SITE, snippet: 'harbour-chat' },
      ifMatch: '*',
      body: { note: 'changed while a backup was made' },
    });
    const chunks = [first];
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      chunks.push(value);
    }
    const { manifest, tables } = await itemsOf(Buffer.concat(chunks));
    expect([...tables.values()].some((text) => text.includes('changed while a backup'))).to.equal(false);
    expect(manifest.sites.map(({ key }) => key)).to.include('skerrywick');
    expect((await takeBackup(stage)).includes('changed while a backup')).to.equal(true);
  });

  it('are restored into nothing but an empty installation', async () => {
    expect(await problemOf(restore(stage, backup))).to.include({ id: 'restore-not-empty', status: 409 });
  });

  it('leave an installation empty when anything is wrong with them', async () => {
    const other = await empty();
    const newer = await rewritten(backup, ({ manifest }) =>
      manifest.migrations.push('Migration20990101000000'),
    );
    const unfit = await rewritten(backup, ({ tables }) => tables.set('site', 'not\ta\trow\n'));
    const loose = await rewritten(backup, ({ tables }) => tables.set('site', ''));
    for (const [bytes, id] of [
      [Buffer.from('no backup at all'), 'backup-unreadable'],
      [backup.subarray(0, backup.length / 2), 'backup-unreadable'],
      [newer, 'backup-newer'],
      [unfit, 'backup-rows-unfit'],
      [loose, 'backup-rows-unfit'],
    ] as const)
      expect(await problemOf(restore(other, bytes))).to.include({ id, status: 422 });
    expect(await sql(other, 'select from site')).to.have.length(0);
    expect(await sql(other, `select from pg_namespace where nspname = 'pragmatica_backup'`)).to.have.length(
      0,
    );
    const type = { 'content-type': 'text/plain' };
    expect(await callAs(other, other.token, 'POST', '/restore', undefined, type)).to.include({ status: 415 });
  });

  it('are given up with whoever sends them, and leave nothing', async () => {
    const other = await empty();
    const abort = new AbortController();
    async function* half() {
      yield backup.subarray(0, backup.length / 2);
      await new Promise((resolve) => setTimeout(resolve, 300));
      abort.abort();
      await new Promise(() => undefined);
    }
    const bytes = Readable.toWeb(Readable.from(half())) as ReadableStream<Uint8Array>;
    const upload = { type: 'application/x-tar', bytes };
    const events = other.client.upload('restoreBackup', { query: {} }, upload, abort.signal);
    await (async () => {
      for await (const event of events) expect(event.type).to.not.equal('done');
    })().catch(() => undefined);
    // Its connection is gone with it: there is room for another one.
    for (let tries = 0; ; tries++) {
      const done = await restore(other, backup).catch((error: unknown) => error);
      if (!(done instanceof ApiError)) break;
      expect(done.problem.message?.id).to.equal('backup-under-way');
      expect(tries).to.be.below(50);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    expect(await sql(other, 'select from site')).to.have.length(5);
  });

  it('of an older version come to the present schema step by step', async () => {
    // The form of before there were trails with hashes, approvals and backups.
    const since = ['Migration20261201300000', 'Migration20261201400000', 'Migration20261201500000'];
    const gone = ['approval_rule', 'approval', 'approval_link', 'trail_change', 'trail_link', 'backup_rule'];
    const old = await rewritten(backup, ({ manifest, tables }) => {
      manifest.migrations = manifest.migrations.filter((name) => !since.includes(name));
      manifest.tables = manifest.tables.filter(({ name }) => !gone.includes(name));
      manifest.trail = { number: 0, hash: '0'.repeat(64) };
      const audit = manifest.tables.find(({ name }) => name === 'audit')!;
      const places = audit.columns.flatMap((column, place) =>
        ['token', 'address'].includes(column) ? [place] : [],
      );
      const kept = (line: string): string =>
        line
          .split('\t')
          .filter((_, place) => !places.includes(place))
          .join('\t');
      tables.set('audit', tables.get('audit')!.split('\n').map(kept).join('\n'));
      audit.columns = audit.columns.filter((column) => !['token', 'address'].includes(column));
    });
    const other = await empty();
    const done = await restore(other, old);
    expect(done).to.include({ sites: 5 });
    expect(await rowsOf(other, 'part')).to.deep.equal(await rowsOf(stage, 'part'));
    const [rule] = await sql<{ cron: string }>(other, 'select cron from backup_rule');
    expect(rule!.cron).to.equal('17 3 * * *');
  });

  it('come without schedules, mails and webhooks where they are only looked at', async () => {
    const params = { ...SITE, host: 'skerrywick.localhost' };
    await stage.client.call('setSchedule', { params, body: { cron: '0 6 * * 1' } });
    const other = await empty();
    await restore(other, await takeBackup(stage), { quiet: '1' });
    expect(await rowsOf(other, 'survey_schedule')).to.deep.equal([]);
    expect(await rowsOf(other, 'webhook')).to.deep.equal([]);
    expect(
      await sql(other, `select from site_watch where cron is not null or mail_to <> '[]'`),
    ).to.deep.equal([]);
    expect(await rowsOf(other, 'snippet')).to.have.length((await rowsOf(stage, 'snippet')).length);
  });

  describe('of one site', () => {
    const exported = async (of: Stage, site: string) => {
      const { data } = await of.client.call('exportSite', { params: { site } });
      return data;
    };

    it('bring it back beside itself, with everything but what belongs to others', async () => {
      const done = await bringBack(stage, backup, { site: 'skerrywick', as: 'skerrywick-before' });
      expect(done).to.include({ site: 'skerrywick-before', releases: 1, snippets: 11 });
      expect(done.name).to.match(/^Skerrywick Ferries \(\d{4}-\d\d-\d\d\)$/);
      expect(done.hosts).to.deep.equal([]);
      expect(done.takenHosts).to.include('skerrywick.localhost');
      const [was, is] = [await exported(stage, 'skerrywick'), await exported(stage, 'skerrywick-before')];
      expect(is.releases.map(({ digest }) => digest)).to.deep.equal(was.releases.map(({ digest }) => digest));
      expect(is.draft.snippets.length).to.equal(was.draft.snippets.length);
      const people = (await stage.client.call('listSiteMembers', { params: { site: 'skerrywick-before' } }))
        .data;
      expect(people.items.map(({ login }) => login)).to.include('inga');
      const { items } = (
        await stage.client.call('listActivity', {
          params: { site: 'skerrywick-before' },
          query: {},
        })
      ).data;
      expect(items[0]!.message).to.include('Brought the site back from the backup of');
    });

    it('bring it with its hosts and what opens them where nobody else has them', async () => {
      const other = await empty();
      const done = await bringBack(other, backup, { site: 'skerrywick' });
      expect(done).to.deep.include({ name: 'Skerrywick Ferries', takenHosts: [], lost: [] });
      expect(done.hosts).to.include('staging.skerrywick.localhost');
      expect(await rowsOf(other, 'host_access')).to.have.length(1);
      expect(await exported(other, 'skerrywick'))
        .to.have.property('releases')
        .with.length(1);
      const live = { params: SITE, query: { limit: 10 } };
      const { items } = (await other.client.call('listReleases', live)).data;
      expect(items[0]!.environments).to.deep.equal(['staging', 'live']);
      // Nothing acts by itself.
      expect(await rowsOf(other, 'site_watch')).to.deep.equal([]);
    });

    it('refuse a key that is taken, and a site that is not in them', async () => {
      expect(await problemOf(bringBack(stage, backup, { site: 'skerrywick' }))).to.include({
        id: 'brought-site-exists',
        status: 409,
      });
      const none = await problemOf(bringBack(stage, backup, { site: 'mill', as: 'mill' }));
      expect(none).to.include({ id: 'no-site-in-backup', status: 422 });
      expect(none.detail).to.include('tern-hostel');
    });
  });

  describe('that are made by themselves', () => {
    let keeper: Stage;
    let folder: string;

    before(async () => {
      folder = mkdtempSync(join(tmpdir(), 'pragmatica-backups-'));
      keeper = await startStage({
        hasDemo: false,
        hasWorker: true,
        settings: { PRAGMATICA_BACKUPS: folder },
      });
      await keeper.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    });
    after(async () => {
      await keeper.close();
      rmSync(folder, { recursive: true, force: true });
    });

    const rule = async () => (await keeper.client.call('listBackups', {})).data.rule;
    const setRule = async (change: object) => {
      const { isOn, cron, zone, keep, recipients } = await rule();
      const body = { isOn, cron, zone, keep, recipients, ...change };
      return (await keeper.client.call('setBackupRule', { body })).data;
    };
    const due = async () => {
      await sql(keeper, `update backup_rule set next_at = now() - interval '1 minute'`);
    };

    it('are planned for every night from the first day on', async () => {
      for (let tries = 0; (await rule()).nextAt === null && tries < 50; tries++)
        await new Promise((resolve) => setTimeout(resolve, 100));
      const { isOn, words, keep, nextAt, folder: where } = await rule();
      expect({ isOn, words, keep, where }).to.deep.equal({
        ...{ isOn: true, words: 'every day at 03:17', where: folder },
        keep: { days: 7, weeks: 4, months: 6 },
      });
      expect(Date.parse(nextAt!)).to.be.greaterThan(Date.now());
    });

    it('lie in the folder when their time has come, for nobody else to read', async () => {
      await due();
      for (let tries = 0; readdirSync(folder).length === 0 && tries < 100; tries++)
        await new Promise((resolve) => setTimeout(resolve, 100));
      const made = await settled(keeper);
      expect(made).to.include({ state: 'done', by: null, isHere: true, isEncrypted: false });
      expect(readdirSync(folder)).to.deep.equal([made.file]);
      expect(statSync(join(folder, made.file!)).mode & 0o777).to.equal(0o600);
      expect(Date.parse((await rule()).nextAt!)).to.be.greaterThan(Date.now());
      const { data } = await keeper.client.call('showBackup', { params: { backup: made.id } });
      expect(data.sites).to.deep.equal([{ key: 'mill', name: 'Tide Mill', hosts: [] }]);
    });

    it('go when the rule keeps them no more; those that somebody asked for stay', async () => {
      const { data } = await keeper.client.call('askForBackup', {});
      const asked = await settled(keeper, data.id);
      await sql(keeper, `update backup set made_at = made_at - interval '40 days' where id = $1`, [asked.id]);
      for (const days of [20, 10, 3]) {
        await sql(keeper, `update backup set made_at = made_at - interval '${days} days' where "by" is null`);
        await due();
        const before = (await keeper.client.call('listBackups', {})).data.items[0]!.id;
        while ((await keeper.client.call('listBackups', {})).data.items[0]!.id === before)
          await new Promise((resolve) => setTimeout(resolve, 100));
        await settled(keeper);
      }
      await setRule({ keep: { days: 2, weeks: 0, months: 0 } });
      await due();
      for (let tries = 0; readdirSync(folder).length > 3 && tries < 100; tries++)
        await new Promise((resolve) => setTimeout(resolve, 100));
      const { items } = (await keeper.client.call('listBackups', {})).data;
      expect(items.filter(({ by }) => by === null)).to.have.length(2);
      expect(items.map(({ id }) => id)).to.include(asked.id);
      expect(readdirSync(folder).toSorted()).to.deep.equal(items.map(({ file }) => file!).toSorted());
    });

    it('are encrypted for the keys of the rule, and then closed to the service', async () => {
      const recipient = 'age1jxycwgtj6pkmd38k2kut2mrl0m9h6fmsyk7eqregzs37s49w7q6qpetfew';
      expect((await setRule({ recipients: [recipient] })).recipients).to.deep.equal([recipient]);
      const { data } = await keeper.client.call('askForBackup', {});
      const made = await settled(keeper, data.id);
      expect(made).to.include({ isEncrypted: true, state: 'done' });
      expect(readFileSync(join(folder, made.file!), 'latin1').slice(0, 21)).to.equal('age-encryption.org/v1');
      const params = { backup: made.id };
      expect(await problemOf(keeper.client.call('showBackup', { params }))).to.include({
        id: 'backup-encrypted',
      });
      const fetched = await bytesOf(await keeper.client.download('fetchBackup', { params }));
      expect(fetched.equals(readFileSync(join(folder, made.file!)))).to.equal(true);
      await setRule({ recipients: [] });
    });

    it('say of a wrong rule what is wrong, and where', async () => {
      for (const [change, pointer] of [
        [{ cron: 'at night' }, '/cron'],
        [{ cron: '* * * * *' }, '/cron'],
        [{ zone: 'Mars/Olympus' }, '/zone'],
        [{ recipients: ['age1nope'] }, '/recipients/0'],
        [{ keep: { days: -1, weeks: 0, months: 0 } }, '/keep/days'],
      ] as const) {
        const error = await setRule(change).catch((failure: unknown) => failure as ApiError);
        expect((error as ApiError).problem.errors?.[0]?.pointer).to.equal(pointer);
      }
    });

    it('bring a site back without leaving the folder', async () => {
      const { data } = await keeper.client.call('askForBackup', {});
      const { id } = await settled(keeper, data.id);
      const query = { site: 'mill', as: 'mill-again' };
      let last;
      for await (const event of keeper.client.stream('bringSiteBackFrom', { params: { backup: id }, query }))
        last = event;
      expect(last).to.include({ type: 'done', site: 'mill-again' });
    });

    it('are removed with their file, and are no more then', async () => {
      const { items } = (await keeper.client.call('listBackups', {})).data;
      const { id, file } = items[0]!;
      await keeper.client.call('removeBackup', { params: { backup: id } });
      expect(readdirSync(folder)).to.not.include(file);
      for (const name of ['removeBackup', 'showBackup'] as const)
        expect(await problemOf(keeper.client.call(name, { params: { backup: id } }))).to.include({
          status: 404,
        });
      const gone = items.at(-1)!;
      rmSync(join(folder, gone.file!));
      const away = await problemOf(keeper.client.download('fetchBackup', { params: { backup: gone.id } }));
      expect(away).to.include({ id: 'backup-not-here', status: 409 });
    });

    it('say why one was not made, and leave no half of it', async () => {
      rmSync(folder, { recursive: true });
      writeFileSync(folder, 'in the way');
      const { data } = await keeper.client.call('askForBackup', {});
      const failed = await settled(keeper, data.id);
      expect(failed.state).to.equal('failed');
      expect(failed.problem).to.match(/^(?:Something went wrong|Its folder cannot)/);
      const { items } = (await keeper.client.call('listTrail', { query: { limit: 3 } })).data;
      expect(items[0]!.message).to.include('No backup was made');
    });

    it('are not waited for where their worker has gone', async () => {
      await sql(
        keeper,
        `insert into backup (state, "by", machine, beat_at) values ('running', 'admin', 'elsewhere', now() - interval '2 minutes')`,
      );
      const gone = await settled(keeper);
      expect(gone.problem).to.equal('Whatever made it has stopped. The next one is made as planned.');
    });
  });

  it('are made one at a time', async () => {
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    await client.query('begin');
    await client.query(`select pg_advisory_xact_lock(hashtext('pragmatica.backup'))`);
    expect(await problemOf(stage.client.download('takeBackup', { query: {} }))).to.include({
      id: 'backup-under-way',
      status: 409,
    });
    await client.end();
  });
});
