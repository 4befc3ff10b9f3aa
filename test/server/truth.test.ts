import { gzipSync } from 'node:zlib';
import { request } from 'node:http';
import { expect } from 'chai';
import pg from 'pg';
import { api, send } from '../support/http.js';
import { createDatabase, startStage, type Stage } from '../support/stage.js';
import { migrate, openDatabase } from '@pragmatica/server';

describe('answers that tell the truth', () => {
  let stage: Stage;
  before(async () => (stage = await startStage()));
  after(() => stage.close());

  const call = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
    api(stage.server, stage.token, method, path, body, headers);
  const SITE = '/sites/skerrywick';

  it('refuse text that nothing can keep, at its place, wherever it stands', async () => {
    for (const [bad, words] of [
      ['a\0b', /null character/],
      ['a\ud800b', /half a character/],
      ['\udc00', /half a character/],
    ] as const) {
      const parts = [{ placement: 'body-end', code: `<p>${bad}</p>` }];
      const answers: [string, Awaited<ReturnType<typeof call>>][] = [
        ['/parts/0/code', await call('POST', `${SITE}/snippets`, { name: 'x', parts })],
        [
          '/name',
          await call('POST', `${SITE}/snippets`, {
            name: bad,
            parts: [{ placement: 'body-end', code: 'x' }],
          }),
        ],
        ['/code', await call('POST', '/read', { code: bad })],
        ['/message', await call('POST', `${SITE}/releases`, { message: bad }, { 'if-match': '*' })],
        ['/password', await call('POST', '/sign-in', { login: 'admin', password: bad })],
      ];
      for (const [pointer, { status, json }] of answers) {
        expect(status, pointer).to.equal(422);
        const [error] = json['errors'] as { pointer: string; detail: string }[];
        expect(error!.pointer).to.equal(pointer);
        expect(error!.detail).to.match(words);
      }
    }
    expect((await call('GET', `${SITE}/plan?path=/%00`)).status).to.equal(422);
    expect((await call('GET', '/sites/a%00b')).status).to.equal(422);
    // Whole characters beyond the first plane are text like any other.
    expect((await call('POST', '/read', { code: '<p>⛴️ 🚢</p>' })).status).to.equal(200);
  });

  it('refuse names of several lines', async () => {
    const parts = [{ placement: 'body-end', code: '<p>x</p>' }];
    for (const name of ['a\nb', 'a\u001b[2Jb', 'a\u009bb'])
      expect((await call('POST', `${SITE}/snippets`, { name, parts })).status, name).to.equal(422);
  });

  it('say of times that there are not, where they are written', async () => {
    for (const at of ['2027-13-45', '2027-02-30', '2027-01-01T25:00', '9999-12-31', '0001-01-01T00:00:00Z']) {
      const { status, json } = await call('GET', `${SITE}/plan?path=/&at=${encodeURIComponent(at)}`);
      expect(status, at).to.equal(422);
      expect((json['errors'] as { pointer: string }[])[0]!.pointer).to.equal('/at');
    }
    expect((await call('GET', `${SITE}/plan?path=/&at=2027-02-28T23:59`)).status).to.equal(200);
  });

  it('say of codings and charsets that they are not known', async () => {
    const type = (value: string) => call('POST', '/read', '{"code":"x"}', { 'content-type': value });
    expect((await type('application/json; charset=x-unknown')).status).to.equal(415);
    const coded = await call('POST', '/read', '{"code":"x"}', { 'content-encoding': 'compress' });
    expect(coded.status).to.equal(415);
    expect(coded.json['detail']).to.include('Content-Encoding');
    const gzipped = await new Promise<number>((resolve, reject) => {
      const sent = request(
        `${stage.server.replace('localhost', '127.0.0.1')}/api/v1/read`,
        {
          method: 'POST',
          headers: {
            authorization: `Bearer ${stage.token}`,
            'content-type': 'application/json',
            'content-encoding': 'gzip',
          },
        },
        (answer) => resolve(answer.resume().statusCode!),
      );
      sent.on('error', reject);
      sent.end(gzipSync('{"code":"<p>x</p>"}'));
    });
    expect(gzipped).to.equal(200);
  });

  it('say of files and addresses that there are none, or that they are no addresses', async () => {
    const port = Number(new URL(stage.server).port);
    for (const [path, status] of [
      ['/assets/nothing.js', 404],
      ['/assets/%ff', 400],
      ['/api/v1/%ff', 404],
      ['/api/v1/nothing', 404],
    ] as const) {
      const answer = await send({ port, path, headers: { authorization: `Bearer ${stage.token}` } });
      expect(answer.status, path).to.be.oneOf([status, 404]);
      expect(answer.headers['content-type'], path).to.include('application/problem+json');
      expect(answer.text).not.to.include('database');
    }
  });

  it('take a list of origins of any length that makes sense', async () => {
    const origins = Array.from({ length: 40 }, (_, i) => `http://origin-${i}.skerrywick.example`).join(', ');
    const { status } = await call('POST', '/sites', {
      key: 'many',
      name: 'Many',
      timeZone: 'UTC',
      hosts: [{ host: 'many.example', environment: 'live', origin: origins, address: null }],
    });
    expect(status).to.equal(201);
  });

  it('do not publish code that ends the template in which it is to wait', async () => {
    const code = '</template><script>go()</script>';
    await stage.client.call('createSnippet', {
      params: { site: 'skerrywick' },
      body: {
        key: 'loose',
        name: 'Loose',
        parts: [{ placement: 'body-end', code }],
        limits: { visitor: { afterSeconds: 5 } },
      } as never,
    });
    const { data } = await stage.client.call('listFindings', {
      params: { site: 'skerrywick' },
      query: { check: 'contained' },
    });
    expect(data.items.map(({ advice }) => advice).join()).to.include('closes the template it waits in');
    const published = await call(
      'POST',
      `${SITE}/releases`,
      { message: 'm', force: 'try' },
      { 'if-match': '*' },
    );
    expect(published.json['type']).to.equal('urn:pragmatica:problem:not-contained');
  });
});

describe('the database itself', () => {
  let client: pg.Client;
  before(async () => {
    const url = await createDatabase(`integrity_${process.pid}`);
    const orm = await openDatabase(url);
    await migrate(orm);
    await orm.close(true);
    client = new pg.Client({ connectionString: url });
    await client.connect();
    await client.query(`
      insert into site (key, name, time_zone, updated_by, updated_at) values ('a', 'A', 'UTC', 'x', now()), ('b', 'B', 'UTC', 'x', now());
      insert into release_content (digest, body) values ('d', '{}');
      insert into release (site_id, number, message, author, created_at, header_id, snippets, digest, snippets_on) values (1, 1, 'm', 'x', now(), 1, '{}', 'd', 0);
      insert into audit (site_id, action, message, by, at) values (1, 'x', 'x', 'x', now());
      insert into recipe (key, version, body, created_by, created_at) values ('r', 1, '{}', 'x', now());
    `);
  });
  after(() => client.end());

  const refusal = (sql: string): Promise<string> => client.query(sql).then(() => 'done', String);

  it('refuses what cannot be', async () => {
    for (const [sql, words] of [
      [
        "insert into host (site_id, host, environment, origin, position) values (1, 'h', 'moon', 'o', 0)",
        /host_environment_check/,
      ],
      [
        "insert into pointer (site_id, environment, release_id, changed_by, changed_at) values (1, 'moon', 1, 'x', now())",
        /pointer_environment_check/,
      ],
      [
        "insert into pointer (site_id, environment, release_id, changed_by, changed_at) values (2, 'live', 1, 'x', now())",
        /pointer_release_of_site/,
      ],
      [
        "insert into snippet (site_id, key, name, purpose, provider, note, state, include, exclude, updated_by, updated_at) values (1, 'k', 'n', '', '', '', 'maybe', '[]', '[]', 'x', now())",
        /snippet_state_check/,
      ],
      [
        "insert into credential (kind, hash, name, member_id, created_at, expires_at) values ('pass', 'h', 'n', 1, now(), now())",
        /credential_kind_check/,
      ],
      [
        "insert into waiver (site_id, finding, fingerprint, title, reason, author, until, created_at) values (1, 'f', 'f', 't', 'r', 'x', 'soon', now())",
        /waiver_until_check/,
      ],
    ] as const)
      expect(await refusal(sql), sql).to.match(words);
  });

  it('keeps what is only ever added to', async () => {
    for (const sql of [
      'truncate release cascade',
      'delete from release',
      'truncate release_content cascade',
      'delete from release_content',
      "update release_content set body = '[]'",
      'truncate recipe',
      'truncate audit cascade',
      'truncate trail_change',
      'truncate trail_link',
      'delete from audit',
      "update audit set message = 'another'",
    ])
      expect(await refusal(sql), sql).to.match(/immutable|only ever added to/);
    // A site that goes takes its name out of the trail, and nothing else.
    expect(await refusal('update audit set site_id = null')).to.equal('done');
  });

  it('has an index for every foreign key', async () => {
    const { rows } = await client.query<{ table: string; column: string }>(`
      select c.conrelid::regclass::text as table, a.attname as column
      from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
      where c.contype = 'f' and not exists (
        select 1 from pg_index i where i.indrelid = c.conrelid and i.indkey[0] = c.conkey[1])`);
    expect(rows).to.deep.equal([]);
  });
});
