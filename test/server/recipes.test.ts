import { createClient, type RecipeInput } from '@pragmatica/contract';
import { demoRecipes } from '@pragmatica/demo';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect } from 'chai';
import pg from 'pg';
import { GAUGE } from '../support/gauge.js';
import { api } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';

interface ProblemBody {
  readonly title: string;
  readonly detail: string;
  readonly errors?: readonly { pointer: string; detail: string }[];
}

const SECOND: RecipeInput = {
  ...GAUGE,
  version: 2,
  changes: 'It loads faster.',
  parts: [
    {
      ...GAUGE.parts[0]!,
      code: '<script async src="https://tidegauge.example/2/g.js?id=@{gauge}"></script>',
    },
  ],
};

describe('recipes over the API', () => {
  let stage: Stage;
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    for (const [key, host] of [
      ['mill', 'mill.example'],
      ['quay', 'quay.example'],
    ] as const)
      await stage.client.call('createSite', {
        body: { key, name: key, hosts: [{ host, environment: 'live', origin: 'http://127.0.0.1:9' }] },
      });
  });
  afterEach(() => stage.close());

  const call = async (method: string, path: string, body?: unknown) => {
    const answer = await api(stage.server, stage.token, method, path, body);
    return { status: answer.status, body: answer.json as unknown as ProblemBody };
  };
  const add = async (body: RecipeInput) => (await stage.client.call('importRecipe', { body })).data;
  const apply = async (...targets: { site: string; values?: { name: string; value: string }[] }[]) =>
    (await stage.client.call('applyRecipe', { params: { recipe: 'tide-gauge' }, body: { targets } })).data
      .items;
  const snippetOf = async (site: string, snippet = 'tide-gauge') =>
    (await stage.client.call('showSnippet', { params: { site, snippet } })).data;
  const findings = async (site: string) =>
    (await stage.client.call('listFindings', { params: { site }, query: {} })).data.items;
  const give = async (site: string, code: string) => {
    const params = { site, snippet: 'tide-gauge' };
    const { etag } = await stage.client.call('showSnippet', { params });
    await stage.client.call('editSnippet', {
      params,
      ifMatch: etag,
      body: { parts: [{ placement: 'head-end', code }] },
    });
  };

  it('are kept in versions that never change, in memory and in the database', async () => {
    expect((await add(GAUGE)).isNew).to.equal(true);
    expect((await add(GAUGE)).isNew).to.equal(false);
    expect((await add({ ...GAUGE, recognise: { hosts: [] } })).isNew).to.equal(false);
    const other = await call('POST', '/recipes', { ...GAUGE, summary: 'Something else.' });
    expect([other.status, other.body.errors![0]!.pointer]).to.deep.equal([409, '/version']);
    expect(other.body.detail).to.equal(
      '“Tide gauge” already has a different version 1. Versions never change, so call this one 2.',
    );
    const { recipe, versions } = await add(SECOND);
    expect([recipe.version, versions.map(({ version, changes }) => [version, changes])]).to.deep.equal([
      2,
      [
        [2, ['It loads faster.', 'The part “loader” has new code.']],
        [1, []],
      ],
    ]);
    const params = { recipe: 'tide-gauge', version: 1 };
    const { data: exported } = await stage.client.call('exportRecipe', { params });
    expect(await add(exported)).to.deep.include({ isNew: false });
    const missing = await call('GET', '/recipes/tide-gauge/versions/3');
    expect([missing.status, missing.body.detail]).to.deep.equal([
      404,
      '“Tide gauge” has no version 3; the newest is 2.',
    ]);
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    for (const sql of ["update recipe set key = 'x'", 'delete from recipe'])
      expect(await client.query(sql).then(String, String)).to.include('A version of a recipe is immutable');
    await client.end();
  });

  it('give one of two who add the same version at once the number', async () => {
    const both = [GAUGE, { ...GAUGE, summary: 'Another.' }];
    const answers = await Promise.all(both.map((body) => call('POST', '/recipes', body)));
    expect(answers.map(({ status }) => status).sort()).to.deep.equal([201, 409]);
  });

  describe('are refused with a pointer', () => {
    const cases: readonly (readonly [string, object, string])[] = [
      ['to another format', { format: 'pragmatica-recipe/9' }, '/format'],
      ['to no parts', { parts: [] }, '/parts'],
      ['to an unknown key', { part: [] }, '/part'],
      ['to a field that is not asked for', { fields: [] }, '/parts/0/code'],
      ['to a version that is none', { version: 0 }, '/version'],
      [
        'to a step without its host',
        { steps: [{ key: 's', per: 'host', title: 'Do', open: 'not done' }] },
        '/steps/0/open',
      ],
      [
        'to an address pattern that is none',
        { recognise: { addresses: ['https://[/'] } },
        '/recognise/addresses/0',
      ],
    ];
    for (const [what, change, pointer] of cases)
      it(what, async () => {
        const { status, body } = await call('POST', '/recipes', { ...GAUGE, ...change });
        expect([status, body.errors![0]!.pointer]).to.deep.equal([422, pointer]);
      });
  });

  it('publish the JSON Schema of their files, which holds for the demo’s and not for what is refused', async () => {
    const { data: schema } = await stage.client.call('showRecipeSchema', {});
    expect(schema['$id']).to.equal('urn:pragmatica:schema:pragmatica-recipe:1');
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(schema);
    const recipes = demoRecipes(4791);
    expect(recipes.length).to.be.at.least(12);
    for (const recipe of recipes) {
      expect(validate(recipe), `${recipe.key} ${JSON.stringify(validate.errors)}`).to.equal(true);
      expect((await add(recipe)).isNew).to.equal(true);
    }
    for (const wrong of [
      { ...GAUGE, parts: [] },
      { ...GAUGE, extra: 1 },
      { ...GAUGE, version: '1' },
    ])
      expect(validate(wrong)).to.equal(false);
  });

  it('are applied to sites with values for each, whatever becomes of one', async () => {
    await add(GAUGE);
    expect(
      await apply(
        { site: 'mill', values: [{ name: 'gauge', value: 'TG-1' }] },
        { site: 'nowhere' },
        { site: 'quay', values: [{ name: 'gauge', value: 'not one' }] },
      ),
    ).to.deep.equal([
      { site: 'mill', isDone: true, message: '“Tide gauge” is in the draft: at the end of the head.' },
      { site: 'nowhere', isDone: false, message: 'There is no site "nowhere".' },
      {
        site: 'quay',
        isDone: false,
        message:
          '“Gauge” cannot be “not one”. Use only letters, digits, dots, colons, slashes, dashes and underscores.',
      },
    ]);
    const { data: quay } = await stage.client.call('showSite', { params: { site: 'quay' } });
    expect([quay.fields, quay.snippets.on]).to.deep.equal([[], 0]);
    expect((await snippetOf('mill')).recipe).to.deep.equal({
      key: 'tide-gauge',
      version: 1,
      fields: { gauge: 'gauge' },
    });
    const [again] = await apply({ site: 'mill' });
    expect(again!.message).to.match(/^It already has this, as “Tide gauge”/);
    const [left] = await apply({ site: 'quay' });
    expect(left!.message).to.include('Before you can publish it, fill in: Gauge.');
    const { etag } = await stage.client.call('showDraft', { params: { site: 'quay' } });
    const refused = await stage.client
      .call('publish', { params: { site: 'quay' }, ifMatch: etag, body: { message: 'x' } })
      .then(String, String);
    expect(refused).to.include('“Tide gauge”: “Gauge” is still the example, TG-0');
    expect((await call('POST', '/recipes/none/apply', { targets: [{ site: 'mill' }] })).status).to.equal(404);
  });

  it('are made of a snippet in one step, which follows them from then on', async () => {
    const code = '<script async src="https://sluice.example/s.js?id=SL-4021"></script>';
    const params = { site: 'mill', snippet: 'sluice' };
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Sluice', parts: [{ placement: 'head-end', code }] },
    });
    const preview = (await stage.client.call('makeRecipe', { params, body: { preview: true } })).data;
    expect((await stage.client.call('listRecipes', { query: {} })).data.items).to.deep.equal([]);
    const made = (await stage.client.call('makeRecipe', { params, body: {} })).data;
    expect(made).to.deep.equal(preview);
    const after = await snippetOf('mill', 'sluice');
    expect(after.recipe).to.deep.equal({ key: 'sluice', version: 1, fields: { account: 'account' } });
    expect(after.parts[0]!.code).to.equal(code.replace('SL-4021', '@{account}'));
    const { data: plan } = await stage.client.call('showPlan', {
      params,
      query: { path: '/', of: 'draft' },
    });
    expect(plan.parts.map((part) => part.code)).to.deep.equal([code]);
    const nothing = await call('POST', '/sites/mill/snippets/sluice/recipe', {});
    expect([nothing.status, nothing.body.detail]).to.deep.equal([
      409,
      '“Sluice” matches version 1 of its recipe: there is nothing new.',
    ]);
    const taken = await call('POST', '/sites/mill/snippets/sluice/recipe', { key: 'other', name: 'Sluice' });
    expect(taken.status).to.equal(200);
  });

  it('cannot be made of code that could not stand in a page', async () => {
    const params = { site: 'mill' };
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Open', parts: [{ placement: 'body-end', code: '<div>never closed' }] },
    });
    const { status, body } = await call('POST', '/sites/mill/snippets/open/recipe', {});
    expect([status, body.errors![0]!.pointer]).to.deep.equal([422, '/parts/0/code']);
    expect((await snippetOf('mill', 'open')).recipe).to.equal(null);
  });

  it('bring installs up to a newer version, one by one or all, as changes of the drafts', async () => {
    await add(GAUGE);
    await apply({ site: 'mill', values: [{ name: 'gauge', value: 'TG-1' }] }, { site: 'quay' });
    await add(SECOND);
    const updates = (await stage.client.call('listRecipeUpdates', { query: {} })).data.items;
    expect(updates.map(({ site, from, to, news }) => [site, from, to, news])).to.deep.equal([
      ['mill', 1, 2, ['It loads faster.', 'The part “loader” has new code.']],
      ['quay', 1, 2, ['It loads faster.', 'The part “loader” has new code.']],
    ]);
    expect(updates[0]!.changes).to.deep.equal([
      '“Tide gauge” has new code: 1 line changed.',
      '“Tide gauge” follows version 2 of its recipe; before, version 1.',
    ]);
    expect(updates[0]!.code.map(({ part, after }) => [part, after])).to.deep.equal([
      ['tide-gauge/1', SECOND.parts[0]!.code],
    ]);
    expect((await findings('mill')).map(({ check }) => check)).to.include('recipe-behind');
    const one = await stage.client.call('updateFromRecipes', {
      body: { snippets: [{ site: 'mill', snippet: 'tide-gauge' }] },
    });
    expect(one.data.items[0]!.isDone).to.equal(true);
    expect([
      (await snippetOf('mill')).recipe!.version,
      (await snippetOf('quay')).recipe!.version,
    ]).to.deep.equal([2, 1]);
    const all = await stage.client.call('updateFromRecipes', { body: {} });
    expect(all.data.items.map(({ site, snippet, isDone }) => [site, snippet, isDone])).to.deep.equal([
      ['quay', 'tide-gauge', true],
    ]);
    expect((await stage.client.call('listRecipeUpdates', { query: {} })).data.items).to.deep.equal([]);
    const { items } = (await stage.client.call('listActivity', { params: { site: 'mill' }, query: {} })).data;
    expect(items[0]!.message).to.match(
      /^Updated “Tide gauge” to version 2 of “Tide gauge”\. “Tide gauge” has new code/,
    );
    const { uses } = (await stage.client.call('showRecipe', { params: { recipe: 'tide-gauge' } })).data;
    expect(uses.map(({ site, version, isBehind }) => [site, version, isBehind])).to.deep.equal([
      ['mill', 2, false],
      ['quay', 2, false],
    ]);
  });

  it('leave what was changed by hand, until somebody says so', async () => {
    await add(GAUGE);
    await apply({ site: 'mill' });
    const own = '<script defer src="https://tidegauge.example/g.js?id=@{gauge}&x=1"></script>';
    await give('mill', own);
    await add(SECOND);
    const first = (await stage.client.call('updateFromRecipes', { body: {} })).data.items[0]!;
    expect([first.isDone, first.message]).to.deep.equal([
      false,
      'Left as it is, because somebody changed it by hand: The code at the end of the head was changed by hand; the recipe’s new code takes its place.',
    ]);
    expect((await snippetOf('mill')).parts[0]!.code).to.equal(own);
    const second = (await stage.client.call('updateFromRecipes', { body: { replaceEdits: true } })).data
      .items[0]!;
    expect(second.isDone).to.equal(true);
    expect((await snippetOf('mill')).parts[0]!.code).to.equal(SECOND.parts[0]!.code);
  });

  it('let a snippet go, which is then behind nothing', async () => {
    await add(GAUGE);
    await apply({ site: 'mill' });
    await add(SECOND);
    const params = { site: 'mill', snippet: 'tide-gauge' };
    const { etag } = await stage.client.call('showSnippet', { params });
    await stage.client.call('editSnippet', { params, ifMatch: etag, body: { recipe: null } });
    expect((await snippetOf('mill')).recipe).to.equal(null);
    expect((await stage.client.call('listRecipeUpdates', { query: {} })).data.items).to.deep.equal([]);
    const { items } = (
      await stage.client.call('updateFromRecipes', {
        body: { snippets: [{ site: 'mill', snippet: 'tide-gauge' }] },
      })
    ).data;
    expect(items[0]!.message).to.equal('“Tide gauge” follows no recipe.');
  });

  it('take over what was pasted by hand, where it is what they describe; visitors get what they got', async () => {
    await add({ ...GAUGE, recognise: { hosts: ['tidegauge.example'] } });
    const params = { site: 'mill', snippet: 'old-gauge' };
    const paste = (query: string) =>
      `<script async src="https://tidegauge.example/g.js?id=${query}"></script>`;
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Old gauge', parts: [{ placement: 'head-end', code: paste('TG-7&x=1') }] },
    });
    const refused = await call('POST', '/sites/mill/snippets/old-gauge/follow', {});
    expect([refused.status, refused.body.detail]).to.deep.equal([
      409,
      '“Old gauge” stays as it is. “Gauge” cannot be “TG-7&x=1”.',
    ]);
    const { etag } = await stage.client.call('showSnippet', { params });
    const parts = [{ placement: 'head-end' as const, code: paste('TG-7') }];
    await stage.client.call('editSnippet', { params, ifMatch: etag, body: { parts } });
    const { data } = await stage.client.call('followRecipe', { params, body: {} });
    expect([data.recipe, data.parts[0]!.code]).to.deep.equal([
      { key: 'tide-gauge', version: 1, fields: { gauge: 'gauge' } },
      paste('@{gauge}'),
    ]);
    const { data: plan } = await stage.client.call('showPlan', {
      params,
      query: { path: '/', of: 'draft' },
    });
    expect(plan.parts.map(({ code }) => code)).to.deep.equal([paste('TG-7')]);
    const again = await call('POST', '/sites/mill/snippets/old-gauge/follow', {});
    expect(again.body.detail).to.equal('“Old gauge” already follows the recipe “tide-gauge”.');
  });

  it('go into releases, and a copy follows the same recipe', async () => {
    await add(GAUGE);
    await apply({ site: 'mill', values: [{ name: 'gauge', value: 'TG-1' }] });
    const params = { site: 'mill' };
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: 'Gauge' } });
    const { data } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
    expect(data.snapshot.snippets[0]!.recipe).to.deep.equal((await snippetOf('mill')).recipe);
    await stage.client.call('copySnippet', {
      params: { ...params, snippet: 'tide-gauge' },
      body: { sites: ['quay'] },
    });
    expect((await snippetOf('quay')).recipe?.version).to.equal(1);
  });

  it('put a missing piece back', async () => {
    await add({
      ...GAUGE,
      parts: [
        GAUGE.parts[0]!,
        { key: 'place', placement: 'body-end', code: '<div id="gauge-@{gauge}"></div>' },
      ],
    });
    await apply({ site: 'mill', values: [{ name: 'gauge', value: 'TG-1' }] });
    await give('mill', GAUGE.parts[0]!.code);
    const finding = (await findings('mill')).find(({ check }) => check === 'missing-piece')!;
    const fixed = await stage.client.call('fixFinding', {
      params: { site: 'mill', finding: finding.id },
      body: {},
    });
    expect(fixed.data.fixed.map(({ id }) => id)).to.deep.equal([finding.id]);
    expect((await snippetOf('mill')).parts.map(({ placement, code }) => [placement, code])).to.deep.equal([
      ['head-end', GAUGE.parts[0]!.code],
      ['body-end', '<div id="gauge-@{gauge}"></div>'],
    ]);
  });

  describe('have a checklist', () => {
    const params = { site: 'mill' };
    const step = { recipe: 'tide-gauge', step: 'domain', host: 'mill.example' };
    const tick = (done: boolean, token = stage.client) =>
      token.call('tickStep', { params, body: { ...step, done } });
    beforeEach(async () => {
      await add(GAUGE);
      await apply({ site: 'mill', values: [{ name: 'gauge', value: 'TG-1' }] });
    });

    it('ticked with name and time; what is open is a finding', async () => {
      const { data } = await stage.client.call('showChecklist', { params });
      expect(data.items.map(({ title, tick: done }) => [title, done])).to.deep.equal([
        ['List mill.example', null],
      ]);
      expect((await findings('mill')).map(({ title }) => title)).to.include(
        '“Tide gauge”: mill.example is not listed',
      );
      const ticked = (await tick(true)).data.items[0]!.tick!;
      expect(ticked.by).to.equal('admin');
      expect(Date.now() - Date.parse(ticked.at)).to.be.within(0, 60_000);
      expect((await findings('mill')).map(({ check }) => check)).not.to.include('open-step');
      // Who did it first is who did it.
      expect((await tick(true)).data.items[0]!.tick).to.deep.equal(ticked);
      expect((await tick(false)).data.items[0]!.tick).to.equal(null);
      expect((await findings('mill')).map(({ check }) => check)).to.include('open-step');
      const { items } = (await stage.client.call('listActivity', { params, query: {} })).data;
      expect(items.slice(0, 2).map(({ message }) => message)).to.deep.equal([
        'Unticked: List mill.example.',
        'Ticked off: List mill.example.',
      ]);
    });

    it('that stays ticked over a new version, and has a new host’s line at once', async () => {
      await tick(true);
      await add(SECOND);
      const { etag, data: site } = await stage.client.call('showSite', { params });
      const more = {
        host: 'staging.mill.example',
        environment: 'staging' as const,
        origin: 'http://127.0.0.1:9',
      };
      await stage.client.call('editSite', { params, ifMatch: etag, body: { hosts: [...site.hosts, more] } });
      const { data } = await stage.client.call('showChecklist', { params });
      expect(data.items.map(({ host, tick: done }) => [host, done?.by])).to.deep.equal([
        ['mill.example', 'admin'],
        ['staging.mill.example', undefined],
      ]);
    });

    it('without what is not on it', async () => {
      const { status, body } = await call('PUT', '/sites/mill/checklist', {
        ...step,
        host: 'x.example',
        done: true,
      });
      expect([status, body.detail]).to.deep.equal([
        404,
        'There is no step "domain" of "tide-gauge" for the host x.example on the checklist of "mill".',
      ]);
    });

    it('ticked once by several people at once', async () => {
      const answers = await Promise.all([tick(true), tick(true), tick(true)]);
      expect(new Set(answers.map(({ data }) => data.items[0]!.tick!.at)).size).to.equal(1);
    });
  });

  it('are named where code is read', async () => {
    await add({ ...GAUGE, recognise: { hosts: ['tidegauge.example'] } });
    const read = async (code: string) =>
      (await stage.client.call('readCode', { body: { code } })).data.recipe;
    expect(await read('<script src="https://tidegauge.example/x.js"></script>')).to.deep.equal({
      key: 'tide-gauge',
      name: 'Tide gauge',
      version: 1,
    });
    expect(await read('<script src="https://other.example/x.js"></script>')).to.equal(null);
  });

  it('need a sign-in', async () => {
    const visitor = createClient({ server: stage.server });
    expect(await visitor.call('listRecipes', { query: {} }).then(String, String)).to.match(/sign/i);
  });
});
