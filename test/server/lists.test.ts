import { listAllSites } from '@pragmatica/contract';
import { expect } from 'chai';
import pg from 'pg';
import { GAUGE as PLAIN_GAUGE } from '../support/gauge.js';
import { api, eventually } from '../support/http.js';
import { settledSites } from '../support/site-lists.js';
import { startStage, type Stage } from '../support/stage.js';

const SHARE = '<script async src="http://sharebuoy.example/share.js"></script>';

/** Code that was pasted by hand tells that it is one. */
const GAUGE = { ...PLAIN_GAUGE, steps: [], recognise: { hosts: ['tidegauge.example'] } };

describe('lists over the API', function () {
  this.timeout(60_000);
  let stage: Stage;
  let database: pg.Client;
  beforeEach(async () => {
    stage = await startStage({ hasDemo: false });
    database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
  });
  afterEach(async () => {
    await database.end();
    await stage.close();
  });

  const addSite = async (name: string, host?: string) =>
    (
      await stage.client.call('createSite', {
        body: {
          name,
          hosts: host === undefined ? [] : [{ host, environment: 'live', origin: 'http://127.0.0.1:9' }],
        },
      })
    ).data;
  const addSnippet = async (site: string, name: string, code: string) =>
    stage.client.call('createSnippet', {
      params: { site },
      body: { name, parts: [{ placement: 'head-end', code }] },
    });
  const publish = async (site: string) => {
    const { etag } = await stage.client.call('showDraft', { params: { site } });
    await stage.client.call('publish', { params: { site }, ifMatch: etag, body: { message: 'm' } });
  };
  const list = async (query: Parameters<typeof stage.client.call<'listSites'>>[1]['query'] = {}) =>
    (await stage.client.call('listSites', { query })).data;
  const keys = (items: readonly { key: string }[]): string[] => items.map(({ key }) => key);

  describe('of sites', () => {
    it('come page by page, in one order whatever the length of a page', async () => {
      for (const number of [10, 9, 2, 1]) await addSite(`Pier ${number}`, `pier${number}.example`);
      await addSite('Abbey');
      await settledSites(stage.client);
      const whole = keys((await list()).items);
      // The one without a host needs somebody most; the others come by name, as people count.
      expect(whole).to.deep.equal(['abbey', 'pier-1', 'pier-2', 'pier-9', 'pier-10']);
      for (const limit of [1, 2, 3, 5, 200]) {
        const found: string[] = [];
        for (let after: string | undefined; ;) {
          const page = await list({ limit, after });
          expect(page.items.length, 'no page is empty').to.be.within(1, limit);
          found.push(...keys(page.items));
          if (page.next === null) break;
          after = page.next;
        }
        expect(found, `${limit} at a time`).to.deep.equal(whole);
      }
    });

    it('are searched in key, name and hosts, every word of it, and by nothing that it means elsewhere', async () => {
      await addSite('Tide Mill', 'www.mill.example');
      await addSite('Tide House', '100-percent.example');
      expect(keys((await list({ q: 'TIDE mill' })).items)).to.deep.equal(['tide-mill']);
      expect(keys((await list({ q: 'percent' })).items)).to.deep.equal(['tide-house']);
      expect(keys((await list({ q: '%' })).items)).to.deep.equal([]);
      expect(keys((await list({ q: '_' })).items)).to.deep.equal([]);
      expect(keys((await list({ q: `' or true --` })).items)).to.deep.equal([]);
      expect((await list({ q: 'mill' })).counts.all).to.equal(1);
    });

    it('are counted and filtered by what they need', async () => {
      for (const name of ['Calm', 'Waiting', 'Broken']) await addSite(name, `${name.toLowerCase()}.example`);
      for (const site of ['calm', 'waiting']) {
        await addSnippet(site, 'One', '<meta name="a" content="1">');
        await publish(site);
      }
      await addSnippet('waiting', 'Two', '<meta name="b" content="2">');
      await addSnippet('broken', 'Broken', '<script>function (</script>');
      await settledSites(stage.client);
      const { items, counts } = await list();
      expect(keys(items)).to.deep.equal(['broken', 'waiting', 'calm']);
      expect(counts).to.deep.equal({ all: 3, attention: 2, unpublished: 2 });
      expect(keys((await list({ filter: 'attention' })).items)).to.deep.equal(['broken', 'waiting']);
      expect(keys((await list({ filter: 'unpublished' })).items)).to.deep.equal(['broken', 'waiting']);
    });

    it('tell only what has changed since the list before, and miss no change that came in between', async () => {
      for (const name of ['A', 'B', 'C']) await addSite(name, `${name.toLowerCase()}.example`);
      await settledSites(stage.client);
      let first = await list();
      // What is being written at that moment is told once more.
      await eventually(async () => {
        first = await list();
        expect((await list({ since: first.since })).items).to.deep.equal([]);
      });
      await addSnippet('b', 'Share', SHARE);
      await settledSites(stage.client);
      const second = await list({ since: first.since });
      expect(
        second.items.map(({ key, snippets, findings }) => [key, snippets.on, findings.warning]),
      ).to.deep.equal([['b', 1, 1]]);
      // A change that was begun before a list, and is there only after it.
      await database.query(`begin; update site_summary set changed = pg_current_xact_id() where site_id = 3`);
      const during = await list({ since: second.since });
      await database.query('commit');
      expect(keys((await list({ since: during.since })).items)).to.include('c');
    });

    it('refuse a place that no list gave', async () => {
      for (const after of ['x', Buffer.from('[1,2,3]').toString('base64url'), 'e30'])
        expect((await api(stage.server, stage.token, 'GET', `/sites?after=${after}`)).status).to.equal(422);
      expect((await api(stage.server, stage.token, 'GET', '/sites?since=x')).status).to.equal(422);
      expect((await api(stage.server, stage.token, 'GET', '/sites?limit=201')).status).to.equal(422);
    });
  });

  describe('say what is so', () => {
    it('after each kind of change, and say while they do not know it yet', async () => {
      await addSite('Mill', 'mill.example');
      await settledSites(stage.client);
      const params = { site: 'mill' };
      const now = async () => (await settledSites(stage.client))[0]!;
      await addSnippet('mill', 'Share', SHARE);
      // Off the request: what is not known yet is said to be so.
      const [at] = (await list()).items;
      expect(at!.isBeingChecked || at!.snippets.on === 1).to.equal(true);
      expect((await now()).findings.warning).to.equal(1);
      const [finding] = (await stage.client.call('listFindings', { params, query: {} })).data.items;
      const of = { params: { ...params, finding: finding!.id } };
      await stage.client.call('waiveFinding', { ...of, body: { reason: 'known', until: '2999-01-01' } });
      expect((await now()).findings).to.include({ warning: 0, waived: 1 });
      await stage.client.call('removeWaiver', of);
      expect((await now()).findings).to.include({ warning: 1, waived: 0 });
      await publish('mill');
      expect(await now()).to.deep.include({ pendingChanges: 0, attention: [] });
      const one = { params: { ...params, snippet: 'share' } };
      const { etag } = await stage.client.call('showSnippet', one);
      await stage.client.call('editSnippet', { ...one, ifMatch: etag, body: { state: 'off' } });
      expect(await now()).to.deep.include({ pendingChanges: 1, snippets: { on: 0, off: 1, archived: 0 } });
      const site = await stage.client.call('showSite', { params });
      await stage.client.call('editSite', {
        params,
        ifMatch: site.etag,
        body: { name: 'Windmill', hosts: [] },
      });
      expect((await now()).attention.map(({ kind }) => kind)).to.include('no-host');
      expect((await list({ q: 'windmill' })).items).to.have.length(1);
    });

    it('of a site by itself, at once', async () => {
      await addSite('Mill', 'mill.example');
      await addSnippet('mill', 'Share', SHARE);
      await eventually(async () => {
        const { data } = await stage.client.call('showSite', { params: { site: 'mill' } });
        expect(data).to.deep.include({ isBeingChecked: false, snippets: { on: 1, off: 0, archived: 0 } });
        expect(data.findings.warning).to.equal(1);
      });
    });

    it('when time alone changes it: a day on which something was accepted is over', async () => {
      await addSite('Mill', 'mill.example');
      await addSnippet('mill', 'Share', SHARE);
      await settledSites(stage.client);
      await database.query(`
        insert into waiver (site_id, finding, fingerprint, title, reason, author, until, created_at)
          select id, 'x', 'x', 't', 'r', 'x', '2999-01-01', now() from site;
        update site_summary set fresh_until = now(), findings = '{"error":0,"warning":7,"advice":0,"waived":0}';
      `);
      await eventually(async () => expect((await list()).items[0]!.findings.warning).to.equal(1));
      const { rows } = await database.query<{ hours: number }>(
        `select (extract(epoch from fresh_until - now()) / 3600)::float as hours from site_summary`,
      );
      expect(rows[0]!.hours, 'until midnight at the site').to.be.within(0, 24);
    });

    it('though what is kept of another site cannot be worked out', async () => {
      for (const name of ['Broken', 'Mill']) await addSite(name, `${name.toLowerCase()}.example`);
      await settledSites(stage.client);
      // As a defect would leave it: a draft that nothing can be made of.
      await database.query(`update site set time_zone = 'Nowhere/None' where key = 'broken'`);
      for (const site of ['broken', 'mill'])
        await database.query(
          `insert into audit (site_id, action, message, by, at) select id, 'x', 'x', 'x', now() from site where key = $1`,
          [site],
        );
      await addSnippet('mill', 'Share', SHARE);
      await eventually(async () => {
        const { items } = await list();
        expect(items.find(({ key }) => key === 'mill')).to.deep.include({ isBeingChecked: false });
        expect(items.find(({ key }) => key === 'mill')!.findings.warning).to.equal(1);
        expect(items.find(({ key }) => key === 'broken')).to.deep.include({ isBeingChecked: true });
      });
    });

    it('of all sites that a recipe concerns, once there is one for what they have', async () => {
      for (const name of ['Mill', 'Quay']) await addSite(name, `${name.toLowerCase()}.example`);
      await addSnippet(
        'mill',
        'Old gauge',
        '<script async src="https://tidegauge.example/g.js?id=TG-7"></script>',
      );
      await settledSites(stage.client);
      await stage.client.call('importRecipe', { body: GAUGE });
      await settledSites(stage.client);
      const recipes = async () => (await stage.client.call('listRecipes', { query: {} })).data;
      expect((await recipes()).items).to.deep.include.members([
        { recipe: (await recipes()).items[0]!.recipe, installs: 1, behind: 0 },
      ]);
      // One that has it is left out, even where it came a moment ago and nobody has read it for recipes yet.
      await addSnippet(
        'quay',
        'Other',
        '<script async src="https://tidegauge.example/g.js?id=TG-8"></script>',
      );
      const { data } = await stage.client.call('applyRecipe', {
        params: { recipe: 'tide-gauge' },
        body: { targets: [{ site: 'quay' }, { site: 'mill' }] },
      });
      expect(data.items.map(({ isDone, message }) => [isDone, message.slice(0, 40)])).to.deep.equal([
        [false, 'It already has this, as “Other”, which s'],
        [false, 'It already has this, as “Old gauge”, whi'],
      ]);
      await stage.client.call('importRecipe', { body: { ...GAUGE, version: 2 } });
      await stage.client.call('followRecipe', {
        params: { site: 'mill', snippet: 'old-gauge' },
        body: {},
      });
      await stage.client.call('importRecipe', { body: { ...GAUGE, version: 3 } });
      await settledSites(stage.client);
      expect(await recipes()).to.deep.include({ all: 1, behind: 1, next: null });
      const shown = await stage.client.call('showRecipe', { params: { recipe: 'tide-gauge' } });
      expect(shown.data.uses.map(({ site, version, isBehind }) => [site, version, isBehind])).to.deep.equal([
        ['mill', 2, true],
        ['quay', null, false],
      ]);
    });
  });

  it('of recipes come page by page and are searched', async () => {
    for (const number of [1, 2, 3])
      await stage.client.call('importRecipe', {
        body: { ...GAUGE, key: `gauge-${number}`, name: `Gauge ${number}`, provider: `P${number}` },
      });
    const first = (await stage.client.call('listRecipes', { query: { limit: 2 } })).data;
    expect([keys(first.items.map(({ recipe }) => recipe)), first.next, first.all]).to.deep.equal([
      ['gauge-1', 'gauge-2'],
      'gauge-2',
      3,
    ]);
    const rest = (await stage.client.call('listRecipes', { query: { limit: 2, after: first.next! } })).data;
    expect([keys(rest.items.map(({ recipe }) => recipe)), rest.next]).to.deep.equal([['gauge-3'], null]);
    const found = (await stage.client.call('listRecipes', { query: { q: 'tide P2' } })).data;
    expect(keys(found.items.map(({ recipe }) => recipe))).to.deep.equal(['gauge-2']);
  });

  it('of fields come by site, page by page, for one name or for some sites', async () => {
    const field = (name: string, value: string) => ({ name, type: 'id' as const, label: name, value });
    for (const [name, fields] of [
      ['Pier 10', [field('account', 'T-10'), field('room', 'R-10')]],
      ['Pier 9', [field('account', 'T-9')]],
    ] as const)
      await stage.client.call('createSite', { body: { name, fields: [...fields] } });
    const ask = async (query: Parameters<typeof stage.client.call<'listFields'>>[1]['query']) =>
      (await stage.client.call('listFields', { query })).data;
    const all = await ask({});
    expect(all.items.map((row) => [row.site, row.field.name])).to.deep.equal([
      ['pier-9', 'account'],
      ['pier-10', 'account'],
      ['pier-10', 'room'],
    ]);
    expect(all.names).to.deep.equal([
      { name: 'account', sites: 2 },
      { name: 'room', sites: 1 },
    ]);
    const page = await ask({ limit: 2 });
    expect((await ask({ limit: 3 })).next, 'all of them').to.equal(null);
    expect((await ask({ limit: 2, after: page.next! })).items.map((row) => row.field.name)).to.deep.equal([
      'room',
    ]);
    expect(
      (await ask({ name: 'account', site: 'pier-10,none' })).items.map((row) => row.field.value),
    ).to.deep.equal(['T-10']);
  });

  it('are all there for whoever asks for all of them', async () => {
    for (const number of [1, 2, 3]) await addSite(`S ${number}`);
    expect(await listAllSites(stage.client)).to.have.length(3);
  });

  describe('of what was done and published at a site', () => {
    const params = { site: 'abbey' };

    it('come page by page, the newest first, also where the last page is full', async () => {
      await addSite('Abbey', 'abbey.example');
      for (let i = 1; i <= 4; i++) {
        await addSnippet('abbey', `Share ${i}`, `<meta name="share" content="${i}">`);
        await publish('abbey');
      }
      for (const limit of [1, 2, 4, 200]) {
        const numbers: number[] = [];
        for (let after: string | undefined, isFirst = true; isFirst || after !== undefined; isFirst = false) {
          const { data } = await stage.client.call('listReleases', { params, query: { after, limit } });
          expect(data.items.length).to.be.within(1, limit);
          numbers.push(...data.items.map(({ number }) => number));
          after = data.next ?? undefined;
        }
        expect(numbers, `${limit} at a time`).to.deep.equal([4, 3, 2, 1]);
      }
      const { data: first } = await stage.client.call('listActivity', { params, query: { limit: 3 } });
      const { data: second } = await stage.client.call('listActivity', {
        params,
        query: { limit: 200, after: first.next! },
      });
      const ids = [...first.items, ...second.items].map(({ id }) => id);
      expect(ids).to.deep.equal([...ids].sort((a, b) => b - a));
      expect(first.items[0]!.message).to.include('Published release 4');
      expect(second.items.at(-1)!.message).to.equal('Added the site “Abbey”.');
      expect(second.next).to.equal(null);
      expect(new Set(ids).size).to.equal(9);
    });

    it('refuse a page that no list gave, and more than a page may hold', async () => {
      await addSite('Abbey', 'abbey.example');
      for (const list of ['activity', 'releases']) {
        const get = (query: string) => api(stage.server, stage.token, 'GET', `/sites/abbey/${list}?${query}`);
        expect((await get('after=xyz')).status).to.equal(422);
        expect((await get('limit=201')).status).to.equal(422);
        expect((await get('limit=0')).status).to.equal(422);
        expect((await get('after=xyz')).json['message']).to.deep.include({ id: 'page-unknown' });
      }
    });
  });
});

describe('a recipe for many sites', function () {
  this.timeout(60_000);
  it('is installed with as many statements for twelve as for two', async () => {
    const stage = await startStage({ hasDemo: false });
    for (let i = 1; i <= 12; i++)
      await stage.client.call('createSite', {
        body: { key: `s${i}`, name: `S ${i}`, hosts: [] },
      });
    await stage.client.call('importRecipe', { body: { ...GAUGE, repeatable: true } });
    await settledSites(stage.client);
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    /** Rows of a table that one transaction wrote. */
    const written = async (name: string): Promise<Record<string, number>> => {
      const { rows } = await database.query<{ table: string; transactions: number; rows: number }>(`
        select 'snippet' as table, count(distinct xmin::text)::int as transactions, count(*)::int as rows
          from snippet where name = '${name}'
        union all select 'audit', count(distinct xmin::text)::int, count(*)::int
          from audit where message like '%“${name}”%'
      `);
      return Object.fromEntries(
        rows.flatMap((row) => [
          [row.table, row.transactions],
          [`${row.table}s`, row.rows],
        ]),
      );
    };
    const { data } = await stage.client.call('applyRecipe', {
      params: { recipe: 'tide-gauge' },
      body: {
        name: 'Twelve',
        targets: [
          ...Array.from({ length: 12 }, (_, i) => ({
            site: `s${i + 1}`,
            values: [{ name: 'gauge', value: `TG-${i + 1}` }],
          })),
          { site: 's1', values: [] },
          { site: 'none', values: [] },
        ],
      },
    });
    expect(data.items.filter(({ isDone }) => isDone)).to.have.length(12);
    expect(data.items.slice(12).map(({ message }) => message)).to.deep.equal([
      'The site already has a snippet "twelve". Choose another name or key.',
      'There is no site "none".',
    ]);
    expect(await written('Twelve')).to.deep.equal({ snippet: 1, snippets: 12, audit: 1, audits: 12 });
    const { rows } = await database.query<{ value: string }>(
      `select fields -> 0 ->> 'value' as value from site order by id`,
    );
    expect(rows.map(({ value }) => value)).to.deep.equal(Array.from({ length: 12 }, (_, i) => `TG-${i + 1}`));
    await database.end();
    await stage.close();
  });
});
