import { expect } from 'chai';
import { endpoints } from '@pragmatica/contract';
import { migrate, openDatabase } from '@pragmatica/server';
import pg from 'pg';
import { api, eventually } from '../support/http.js';
import { createDatabase, startStage, type Stage } from '../support/stage.js';

const CODE = '<script src="http://provider.test/a.js"></script>';

describe('the API', () => {
  let stage: Stage;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
  });
  after(() => stage.close());

  const call = (method: string, path: string, body?: unknown, headers?: Record<string, string>) =>
    api(stage.server, stage.token, method, path, body, headers);
  const site = { site: 'mill' };
  let number = 0;
  const addSnippet = async (change: object = {}) =>
    (
      await stage.client.call('createSnippet', {
        params: site,
        body: { name: `Snippet ${++number}`, parts: [{ placement: 'body-end', code: CODE }], ...change },
      })
    ).data;

  describe('answers bad input', () => {
    const CASES: readonly { what: string; body: unknown; pointer: string; detail: RegExp }[] = [
      {
        what: 'an unknown key, naming the nearest',
        body: { name: 'x', partz: [] },
        pointer: '/partz',
        detail: /Did you mean "parts"/,
      },
      {
        what: 'an unknown key deep inside',
        body: { name: 'x', parts: [{ placement: 'body-end', cod: 'x' }] },
        pointer: '/parts/0/cod',
        detail: /Did you mean "code"/,
      },
      {
        what: 'a missing field',
        body: { parts: [{ placement: 'body-end', code: 'x' }] },
        pointer: '/name',
        detail: /required/,
      },
      {
        what: 'a placement that is none',
        body: { name: 'x', parts: [{ placement: 'top', code: 'x' }] },
        pointer: '/parts/0/placement',
        detail: /head-start/,
      },
      {
        what: 'a page pattern that cannot work',
        body: { name: 'x', pages: { include: ['fares'] }, parts: [{ placement: 'body-end', code: 'x' }] },
        pointer: '/pages/include/0',
        detail: /"\/fares"/,
      },
      {
        what: 'a key that is none',
        body: { name: 'x', key: 'Not A Key', parts: [{ placement: 'body-end', code: 'x' }] },
        pointer: '/key',
        detail: /lower-case/,
      },
      {
        what: 'a null character',
        body: { name: 'x', parts: [{ placement: 'body-end', code: 'a\0b' }] },
        pointer: '/parts/0/code',
        detail: /null character/,
      },
      { what: 'no code', body: { name: 'x', parts: [] }, pointer: '/parts', detail: /at least one part/ },
    ];
    for (const { what, body, pointer, detail } of CASES) {
      it(`with a pointer to ${what}`, async () => {
        const answer = await call('POST', '/sites/mill/snippets', body);
        expect(answer.status).to.equal(422);
        const errors = answer.json['errors'] as { pointer: string; detail: string }[];
        const found = errors.find((error) => error.pointer === pointer);
        expect(found, JSON.stringify(errors)).to.not.equal(undefined);
        expect(found!.detail).to.match(detail);
      });
    }

    it('that is no JSON, of another type or too large, each with its status', async () => {
      expect((await call('POST', '/sites', '{"name":')).status).to.equal(400);
      expect((await call('POST', '/sites', 'name=x', { 'content-type': 'text/plain' })).status).to.equal(415);
      expect((await call('POST', '/sites', { name: 'x'.repeat(5_000_000) })).status).to.equal(413);
    });

    it('at addresses that lead nowhere', async () => {
      expect((await call('GET', '/sites/none')).status).to.equal(404);
      expect((await call('GET', '/nowhere')).json['type']).to.equal('urn:pragmatica:problem:not-found');
      const wrong = await call('DELETE', '/sites');
      expect(wrong.status).to.equal(405);
      expect(wrong.headers['allow']).to.equal('GET, POST');
    });

    it('in words, numbers and lists as they are written where the reader lives', async () => {
      await call('POST', '/sites', { key: 'lists', name: 'Lists' });
      const add = async (name: string, code: string, statement = ''): Promise<unknown> =>
        call('POST', '/sites/lists/snippets', {
          name,
          parts: [{ placement: 'head-start', code, statement }],
        });
      for (const name of ['A', 'B', 'C']) await add(name, `<meta name="${name}" content="1">`);
      await add('Ask', '<script>window.asked = 1;</script>', 'This must be the first script in the head.');
      const titleFor = async (languages: string, [open, close] = '“”'): Promise<string | undefined> => {
        const quoted = (name: string): string => `${open}${name}${close}`;
        const { json } = await call('GET', '/sites/lists/findings', undefined, {
          'accept-language': languages,
        });
        const items = json['items'] as { check: string; title: string; message: unknown }[];
        const found = items.find(({ check }) => check === 'not-first');
        expect(found?.message).to.deep.equal({
          id: 'not-first',
          params: {
            ...{ part: quoted('Ask'), others: ['A', 'B', 'C'].map(quoted), count: 3 },
            statement: 'This must be the first script in the head.',
          },
        });
        return found?.title;
      };
      expect(await titleFor('en-US,en;q=0.5')).to.include('“A”, “B”, and “C” run before it');
      expect(await titleFor('cy')).to.include('“A”, “B” and “C” run before it');
      expect(await titleFor('de-AT', '„“')).to.include('„A“, „B“ und „C“');
      expect(await titleFor('!')).to.include('“A”, “B” and “C” run before it');
      await add('Wide', '<p>Slip closed</p>');
      const refused = await call(
        'POST',
        '/sites/lists/releases',
        { message: 'm', environments: ['live'] },
        { 'if-match': '*', 'accept-language': 'en-US' },
      );
      const wrong = refused.json as { detail: string; message: { id: string } };
      expect(wrong.message.id).to.equal('not-contained');
      expect(wrong.detail).to.include('“Wide”');
    });

    it('when a host belongs to another site', async () => {
      const hosts = [{ host: 'a.example', environment: 'live', origin: 'http://origin.example' }];
      expect((await call('POST', '/sites', { name: 'One', hosts })).status).to.equal(201);
      const second = await call('POST', '/sites', { name: 'Two', hosts });
      expect(second.status).to.equal(409);
      expect(second.json['errors']).to.deep.equal([
        {
          pointer: '/hosts/0/host',
          detail: 'This host belongs to another site.',
          message: { id: 'host-of-another-site', params: {} },
        },
      ]);
      expect((await call('GET', '/sites/two')).status, 'nothing of it was kept').to.equal(404);
    });
  });

  describe('keeps changes apart', () => {
    it('asks for If-Match, and refuses a change on top of somebody else’s, saying whose', async () => {
      const { key } = await addSnippet();
      const path = `/sites/mill/snippets/${key}`;
      const { headers } = await call('GET', path);
      expect((await call('PATCH', path, { note: 'a' })).status).to.equal(428);
      expect((await call('PATCH', path, { note: 'a' }, { 'if-match': headers.etag! })).status).to.equal(200);
      const late = await call('PATCH', path, { note: 'b' }, { 'if-match': headers.etag! });
      expect(late.status).to.equal(412);
      expect(late.json).to.include({ changedBy: 'admin' });
      expect(late.json['detail']).to.match(/admin changed this at 20\d\d-/);
      expect((await call('GET', path)).json['note']).to.equal('a');
    });

    it('lets one of many simultaneous changes through', async () => {
      const { key } = await addSnippet();
      const path = `/sites/mill/snippets/${key}`;
      const etag = (await call('GET', path)).headers.etag!;
      const answers = await Promise.all(
        Array.from({ length: 8 }, (_, i) => call('PATCH', path, { note: String(i) }, { 'if-match': etag })),
      );
      expect(answers.map((answer) => answer.status).sort()).to.deep.equal([
        200,
        ...Array<number>(7).fill(412),
      ]);
    });

    it('answers 304 to what has not changed', async () => {
      const { key } = await addSnippet();
      const path = `/sites/mill/snippets/${key}`;
      const { headers } = await call('GET', path);
      expect((await call('GET', path, undefined, { 'if-none-match': headers.etag! })).status).to.equal(304);
    });
  });

  describe('edits the draft', () => {
    it('making keys from names, and refusing the same twice', async () => {
      const made = await addSnippet({ name: 'Harbour Chat!' });
      expect(made.key).to.equal('harbour-chat');
      expect(
        (
          await call('POST', '/sites/mill/snippets', {
            name: 'harbour chat',
            parts: [{ placement: 'body-end', code: 'x' }],
          })
        ).status,
      ).to.equal(409);
    });

    it('changing only what is named; a part that stays keeps its rank', async () => {
      const made = await addSnippet({ purpose: 'p' });
      const { etag } = await stage.client.call('showSnippet', { params: { ...site, snippet: made.key } });
      const { data } = await stage.client.call('editSnippet', {
        params: { ...site, snippet: made.key },
        ifMatch: etag,
        body: {
          parts: [
            { placement: 'body-end', code: 'new' },
            { placement: 'head-end', code: 'x' },
          ],
        },
      });
      expect(data.purpose).to.equal('p');
      expect(data.parts[0]).to.deep.equal({
        placement: 'body-end',
        rank: made.parts[0]!.rank,
        code: 'new',
        per: 'load',
        statement: '',
      });
      expect(data.parts[1]).to.deep.include({ placement: 'head-end', code: 'x' });
    });

    it('reordering a placement as a whole, and only with just its parts', async () => {
      const a = await addSnippet({ parts: [{ placement: 'head-start', code: CODE }] });
      const b = await addSnippet({ parts: [{ placement: 'head-start', code: CODE }] });
      const { data, etag } = await stage.client.call('showOrder', { params: site });
      const before = data.lists.find((list) => list.placement === 'head-start')!.parts;
      expect(before).to.deep.equal([`${a.key}/1`, `${b.key}/1`]);
      const wrong = await call(
        'PUT',
        '/sites/mill/order',
        { lists: [{ placement: 'head-start', parts: [`${a.key}/1`] }] },
        { 'if-match': etag },
      );
      expect(wrong.status).to.equal(422);
      const order = { lists: [{ placement: 'head-start' as const, parts: [...before].reverse() }] };
      const changed = await stage.client.call('changeOrder', { params: site, ifMatch: etag, body: order });
      expect(changed.data.lists.find((list) => list.placement === 'head-start')!.parts).to.deep.equal(
        order.lists[0]!.parts,
      );
      expect(
        (await call('PUT', '/sites/mill/order', order, { 'if-match': etag })).status,
        'the old tag no longer holds',
      ).to.equal(412);
    });

    it('removing a snippet', async () => {
      const { key } = await addSnippet();
      const path = `/sites/mill/snippets/${key}`;
      const { headers } = await call('GET', path);
      expect((await call('DELETE', path, undefined, { 'if-match': headers.etag! })).status).to.equal(204);
      expect((await call('GET', path)).status).to.equal(404);
    });

    it('writing down who did what', async () => {
      await addSnippet({ name: 'Remembered' });
      const { items } = (await stage.client.call('listActivity', { params: site, query: {} })).data;
      expect(items[0]).to.include({ by: 'admin', message: 'Added “Remembered” to the draft.' });
    });
  });

  it('describes itself as OpenAPI 3.1, from the endpoints that it serves', async () => {
    const { json } = await call('GET', '/openapi.json');
    expect(json['openapi']).to.equal('3.1.0');
    const operations = Object.values(
      json['paths'] as Record<string, Record<string, { operationId: string }>>,
    ).flatMap((path) => Object.values(path).map((operation) => operation.operationId));
    expect(operations.sort()).to.deep.equal(Object.keys(endpoints).sort());
  });

  it('describes itself in a way that others can read: valid, and every reference leads somewhere', async () => {
    const { json } = await call('GET', '/openapi.json');
    const { Validator } = await import('@seriousme/openapi-schema-validator');
    const { valid, errors } = await new Validator().validate(structuredClone(json));
    expect(valid, JSON.stringify(errors ?? '').slice(0, 2_000)).to.equal(true);
    const references: string[] = [];
    JSON.stringify(json, (name, value: unknown) => {
      if (name === '$ref') references.push(value as string);
      return value;
    });
    expect(references.length).to.be.greaterThan(50);
    for (const reference of references) {
      const found = reference
        .replace(/^#\//, '')
        .split('/')
        .reduce<unknown>((at, step) => (at as Record<string, unknown> | undefined)?.[step], json);
      expect(found, reference).to.be.an('object');
    }
  });
});

describe('publishing', () => {
  let stage: Stage;
  const params = { site: 'mill' };
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'A', parts: [{ placement: 'body-end', code: CODE }] },
    });
  });
  afterEach(() => stage.close());

  const publish = async (message: string) => {
    const { etag } = await stage.client.call('showDraft', { params });
    return stage.client.call('publish', { params, ifMatch: etag, body: { message } });
  };

  it('numbers releases, keeps each as it was and puts any back in one call', async () => {
    expect((await publish('first')).data).to.include({
      number: 1,
      message: 'first',
      author: 'admin',
      snippets: 1,
    });
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'B', parts: [{ placement: 'head-end', code: '<meta name="b" content="1">' }] },
    });
    const tag = (await stage.client.call('showDraft', { params })).etag;
    const onStaging = { message: 'second', environments: ['staging' as const] };
    const tried = await stage.client.call('publish', { params, ifMatch: tag, body: onStaging });
    expect(tried.data).to.deep.include({ number: 2, environments: ['staging'] });
    // What is on staging already may still go live.
    expect((await publish('third')).data).to.deep.include({ number: 3, environments: ['staging', 'live'] });
    const back = { ...params, environment: 'live' as const };
    await stage.client.call('restoreRelease', { params: back, ifMatch: '*', body: { release: 1 } });
    const { items } = (await stage.client.call('listReleases', { params, query: {} })).data;
    expect(items.map((item) => [item.number, item.environments])).to.deep.equal([
      [3, ['staging']],
      [2, []],
      [1, ['live']],
    ]);
    const { data } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
    expect(data.snapshot.snippets.map((entry) => entry.key)).to.deep.equal(['a']);
    const diff = (await stage.client.call('showDiff', { params, query: {} })).data;
    expect(diff.changes.map((change) => change.message)).to.deep.equal([
      '“B” is new: at the end of the head, on all pages.',
    ]);
  });

  it('publishes what was looked at, tells what came since, and refuses what changes nothing', async () => {
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'B', parts: [{ placement: 'head-end', code: '<meta name="b" content="1">' }] },
    });
    const late = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/releases',
      { message: 'm' },
      { 'if-match': etag },
    );
    expect(late.status).to.equal(201);
    expect(late.json['meanwhile']).to.deep.equal(['“B” is new: at the end of the head, on all pages.']);
    await publish('all');
    const again = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/releases',
      { message: 'm' },
      { 'if-match': '*' },
    );
    expect(again.status).to.equal(409);
    expect(again.json['detail']).to.include('release 2');
  });

  it('refuses code that would change the page around it, naming it', async () => {
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Broken', parts: [{ placement: 'head-end', code: '<div>visible</div>' }] },
    });
    const answer = await api(
      stage.server,
      stage.token,
      'POST',
      '/sites/mill/releases',
      { message: 'm' },
      { 'if-match': '*' },
    );
    expect(answer.status).to.equal(422);
    expect(answer.json['type']).to.equal('urn:pragmatica:problem:not-contained');
    expect((answer.json['errors'] as { pointer: string }[])[0]!.pointer).to.equal('/snippets/1/parts/0/code');
    // What a site needs is worked out off the request.
    await eventually(async () => {
      const { data } = await stage.client.call('showSite', { params });
      expect(data.attention.map((entry) => entry.kind)).to.include.members([
        'never-published',
        'errors-found',
        'no-host',
      ]);
    });
  });

  it('makes releases that even the database refuses to change', async () => {
    await publish('first');
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    const refusals = await Promise.all(
      ["update release set message = 'x'", 'delete from pointer; delete from release'].map((sql) =>
        client.query(sql).then(
          () => 'done',
          (error: unknown) => String(error),
        ),
      ),
    );
    await client.end();
    for (const refusal of refusals) expect(refusal).to.include('immutable');
  });

  it('gives one of two simultaneous publishings the number', async () => {
    const { etag } = await stage.client.call('showDraft', { params });
    const send = () =>
      api(stage.server, stage.token, 'POST', '/sites/mill/releases', { message: 'm' }, { 'if-match': etag });
    const answers = await Promise.all([send(), send(), send()]);
    expect(answers.map((answer) => answer.status).sort()).to.deep.equal([201, 409, 409]);
  });
});

describe('the migrations', () => {
  it('make just the schema that the entities describe, and run once', async () => {
    const orm = await openDatabase(await createDatabase(`migrations_${process.pid}`));
    expect(await migrate(orm)).to.not.have.length(0);
    expect(await migrate(orm)).to.have.length(0);
    const missing = await orm.schema.getUpdateSchemaSQL({ wrap: false, dropTables: false });
    // What surveys and visits write in bulk, notices and approvals have tables, and no entities.
    const others = missing
      .split('\n')
      .filter((line) => line !== '' && !/"(?:survey_|visit|notice|approval)\w*"/.test(line));
    // The one thing that entities cannot say: a foreign key over a column that another one has already.
    expect(others.join('\n')).to.equal(
      'alter table "pointer" drop constraint "pointer_release_of_site_foreign";',
    );
    await orm.close(true);
  });
});
