import { migrate, openDatabase } from '@pragmatica/server';
import { snapshotDigest, thawSet, type FrozenSet } from '@pragmatica/core';
import { expect } from 'chai';
import pg from 'pg';
import { eventually, send } from '../support/http.js';
import { part, set, snippet } from '../support/sets.js';
import { createDatabase, startStage, type Stage } from '../support/stage.js';

const params = { site: 'skerrywick' };

/** One change of one snippet, published. @returns the release's number */
async function changeAndPublish(stage: Stage, key: string, note: string): Promise<number> {
  const one = { params: { ...params, snippet: key } };
  const { etag } = await stage.client.call('showSnippet', one);
  await stage.client.call('editSnippet', { ...one, ifMatch: etag, body: { note } });
  const draft = await stage.client.call('showDraft', { params });
  const body = { message: note, force: 'The demo has errors on purpose.' };
  return (await stage.client.call('publish', { params, ifMatch: draft.etag, body })).data.number;
}

describe('releases stored by content', function () {
  this.timeout(60_000);
  let stage: Stage;
  let database: pg.Client;
  before(async () => {
    stage = await startStage();
    database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
  });
  after(async () => {
    await database.end();
    await stage.close();
  });

  const contents = async (): Promise<number> =>
    (
      await database.query<{ n: number }>(
        'select count(*)::int as n from release_content where key is not null',
      )
    ).rows[0]!.n;
  const show = async (release: number) =>
    (await stage.client.call('showRelease', { params: { ...params, release } })).data;

  it('keep of a release only what is new in it, and give it back byte for byte', async () => {
    const { data: draft } = await stage.client.call('showDraft', { params });
    const key = draft.snapshot.snippets[1]!.key;
    const first = await changeAndPublish(stage, key, 'one');
    const before = await contents();
    const second = await changeAndPublish(stage, key, 'two');
    expect((await contents()) - before, 'one snippet is another').to.equal(1);
    await changeAndPublish(stage, key, 'one');
    expect((await contents()) - before, 'what was there before is there still').to.equal(1);
    for (const number of [first, second]) {
      const { snapshot, digest } = await show(number);
      expect(snapshotDigest(snapshot)).to.equal(digest);
      expect(snapshot.snippets.find((entry) => entry.key === key)!.note).to.equal(
        number === first ? 'one' : 'two',
      );
    }
  });

  it('keep no snippet again because others have moved', async () => {
    const { data: order, etag } = await stage.client.call('showOrder', { params });
    const list = order.lists.find(({ parts }) => parts.length > 2)!;
    const before = await contents();
    const lists = [{ ...list, parts: [...list.parts.slice(1), list.parts[0]!] }];
    await stage.client.call('changeOrder', { params, ifMatch: etag, body: { lists } });
    const draft = await stage.client.call('showDraft', { params });
    const body = { message: 'moved', force: 'The demo has errors on purpose.' };
    const { data } = await stage.client.call('publish', { params, ifMatch: draft.etag, body });
    expect((await contents()) - before).to.equal(0);
    expect((await show(data.number)).snapshot).to.deep.equal(draft.data.snapshot);
  });

  it('tell how a snippet was, from its first release to the one without it', async () => {
    const added = await stage.client.call('createSnippet', {
      params,
      body: { name: 'Short lived', parts: [{ placement: 'body-end', code: '<i></i>' }] },
    });
    const { key } = added.data;
    const numbers = [await changeAndPublish(stage, key, 'first'), await changeAndPublish(stage, key, 'next')];
    const one = { params: { ...params, snippet: key } };
    const { etag } = await stage.client.call('showSnippet', one);
    await stage.client.call('removeSnippet', { ...one, ifMatch: etag });
    const draft = await stage.client.call('showDraft', { params });
    const body = { message: 'gone', force: 'The demo has errors on purpose.' };
    const { data: last } = await stage.client.call('publish', { params, ifMatch: draft.etag, body });
    const { items } = (await stage.client.call('showHistory', one)).data;
    expect(items.map(({ release, snippet: was }) => [release, was?.note])).to.deep.equal([
      [last.number, undefined],
      [numbers[1], 'next'],
      [numbers[0], 'first'],
    ]);
  });

  it('are not served when they are not what was published', async () => {
    const serves = async () =>
      (await send({ port: stage.gatewayPort, host: 'skerrywick.localhost', path: '/' })).headers[
        'pragmatica-release'
      ];
    const sound = await changeAndPublish(stage, 'harbour-chat', 'sound');
    await eventually(async () => expect(await serves()).to.equal(String(sound)));
    await database.query(`
      with damaged as (
        insert into release (site_id, number, message, author, created_at, header_id, snippets, digest, snippets_on)
          select site_id, number + 1, 'damaged', 'x', now(), header_id, snippets[2:], digest, 0
          from release where number = ${sound} and site_id = (select id from site where key = 'skerrywick')
        returning id, site_id
      )
      update pointer p set release_id = d.id from damaged d where p.site_id = d.site_id and environment = 'live'
    `);
    await database.query(`notify pragmatica_release, 'skerrywick'`);
    const next = await changeAndPublish(stage, 'harbour-chat', 'again');
    const seen = new Set<unknown>();
    await eventually(async () => {
      seen.add(await serves());
      expect([...seen].at(-1)).to.equal(String(next));
    });
    expect([...seen]).to.have.members([String(sound), String(next)]);
  });
});

describe('releases of a database from before they were stored by content', () => {
  it('hold what they held, with the digests that they had', async () => {
    const url = await createDatabase(`contents_${process.pid}`);
    const orm = await openDatabase(url);
    await orm.migrator.up({ to: 'Migration20261127120000' });
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const first = set(snippet('a'), snippet('b', { parts: [part('body-end', 1, 'é “x” \\ 1')] }));
    const second = set(
      { ...first.snippets[0]!, parts: [part('body-end', 1)] },
      { ...first.snippets[1]!, parts: [part('body-end', 0, 'é “x” \\ 1')] },
      snippet('c', { limits: { environment: 'live' } }),
    );
    await client.query(
      `insert into site (key, name, time_zone, updated_by, updated_at) values ('s', 'S', 'UTC', 'x', now())`,
    );
    for (const [index, snapshot] of [first, second, set()].entries())
      await client.query(
        `insert into release (site_id, number, message, author, created_at, snapshot, digest, snippets_on)
         values (1, $1, 'm', 'x', now(), $2, $3, 0)`,
        [index + 1, snapshot, snapshotDigest(snapshot)],
      );
    await migrate(orm);
    const { rows } = await client.query<FrozenSet & { digest: string }>(`
      select r.digest, h.body as header, array(
          select c.body from unnest(r.snippets) with ordinality as s (id, at) join release_content c using (id) order by at
        ) as snippets
      from release r join release_content h on h.id = r.header_id order by r.number
    `);
    expect(rows.map(thawSet)).to.deep.equal([first, second, set()]);
    for (const row of rows) expect(snapshotDigest(thawSet(row))).to.equal(row.digest);
    const kept = await client.query<{ key: string }>(
      'select key from release_content where key is not null order by key',
    );
    expect(
      kept.rows.map(({ key }) => key),
      'each once',
    ).to.deep.equal(['a', 'b', 'c']);
    await client.end();
    await orm.close(true);
  });
});
