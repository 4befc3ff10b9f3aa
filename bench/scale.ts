import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { cpus } from 'node:os';
import { listAllSites } from '@pragmatica/contract';
import pg from 'pg';
import { startService, type RunningService } from './service.js';
import { fill, recipeKey, siteKey, type Scale } from './scale-data.js';

/**
 * What calls cost where there is much: 100 sites of 500 snippets, 200 releases and 1,000 pages each, beside a tenth of
 * everything. `npm run bench -- scale [share]` takes a share of it, for a quick look.
 */
const FULL: Scale = { sites: 100, snippets: 500, releases: 200, pages: 1_000 };
const RUNS = 20;
/** The bar: no list takes longer, whatever there is. */
const LIST_MS = 100;

interface Call {
  readonly name: string;
  readonly isList?: boolean;
  readonly run: (round: number) => Promise<unknown>;
  /** What to do before each, and not to measure. */
  readonly before?: (round: number) => Promise<unknown>;
}

interface Figures {
  readonly isList: boolean;
  readonly p50: number;
  readonly p95: number;
  readonly statements: number;
  /** That the database gave or wrote. */
  readonly rows: number;
  readonly kilobytes: number;
}

function share(scale: Scale, of: number): Scale {
  const part = (count: number): number => Math.max(2, Math.round(count * of));
  return {
    sites: part(scale.sites),
    snippets: part(scale.snippets),
    releases: part(scale.releases),
    pages: part(scale.pages),
  };
}

/** The server that holds the pages of all sites. */
async function startOrigin(pages: number): Promise<{ port: number; close: () => void }> {
  const list = Array.from(
    { length: pages },
    (_, i) => `<url><loc>http://pages.test/part-${i % 30}/${i}</loc></url>`,
  );
  const server = createServer((request, response) => {
    const isSitemap = request.url === '/sitemap.xml';
    response.setHeader('content-type', isSitemap ? 'application/xml' : 'text/html');
    response.end(
      isSitemap
        ? `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${list.join('')}</urlset>`
        : '<!doctype html><html><head><title>A page</title></head><body><p>Text</p></body></html>',
    );
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { port: (server.address() as AddressInfo).port, close: () => server.close() };
}

function calls({ client }: RunningService, { sites, snippets, releases }: Scale): Call[] {
  const site = siteKey(1);
  const params = { site };
  const one = { params: { ...params, snippet: `s-${snippets - 1}` } };
  const edit = async (round: number) => {
    const { etag } = await client.call('showSnippet', one);
    return client.call('editSnippet', { ...one, ifMatch: etag, body: { note: `Round ${round}` } });
  };
  let since = '0';
  let draft = '';
  return [
    { name: 'sites', isList: true, run: () => client.call('listSites', { query: {} }) },
    {
      name: 'sites, searched',
      isList: true,
      run: () => client.call('listSites', { query: { q: 'site 7' } }),
    },
    {
      name: 'sites, what has changed',
      isList: true,
      before: async () => (since = (await client.call('listSites', { query: { limit: 1 } })).data.since),
      run: () => client.call('listSites', { query: { since } }),
    },
    { name: 'recipes', isList: true, run: () => client.call('listRecipes', { query: {} }) },
    { name: 'a recipe', run: () => client.call('showRecipe', { params: { recipe: recipeKey(0) } }) },
    { name: 'updates of a site', run: () => client.call('listRecipeUpdates', { query: { site } }) },
    { name: 'fields', isList: true, run: () => client.call('listFields', { query: {} }) },
    { name: 'snippets of a site', isList: true, run: () => client.call('listSnippets', { params }) },
    {
      name: 'releases of a site',
      isList: true,
      run: () => client.call('listReleases', { params, query: {} }),
    },
    {
      name: 'activity of a site',
      isList: true,
      run: () => client.call('listActivity', { params, query: {} }),
    },
    { name: 'pages of a site', isList: true, run: () => client.call('listPages', { params, query: {} }) },
    {
      name: 'findings of a site',
      isList: true,
      run: () => client.call('listFindings', { params, query: {} }),
    },
    { name: 'checklist of a site', isList: true, run: () => client.call('showChecklist', { params }) },
    { name: 'a site', run: () => client.call('showSite', { params }) },
    { name: 'a snippet', run: () => client.call('showSnippet', one) },
    { name: 'its history', isList: true, run: () => client.call('showHistory', one) },
    { name: 'its week', run: () => client.call('showCalendar', { ...one, query: {} }) },
    { name: 'the draft', run: () => client.call('showDraft', { params }) },
    { name: 'the order', run: () => client.call('showOrder', { params }) },
    {
      name: 'a page’s plan',
      run: () => client.call('showPlan', { params, query: { path: '/part-1/1' } }),
    },
    {
      name: 'a release',
      run: () => client.call('showRelease', { params: { ...params, release: releases } }),
    },
    {
      name: 'draft against live',
      run: () => client.call('showDiff', { params, query: {} }),
    },
    { name: 'save a snippet', run: (round) => edit(round) },
    {
      name: 'publish, checked before',
      before: async (round) => {
        await edit(round + 1_000);
        draft = (await client.call('showDraft', { params })).etag;
        await client.call('listFindings', { params, query: {} });
      },
      run: (round) =>
        client.call('publish', {
          params,
          ifMatch: draft,
          body: { message: `Round ${round}`, force: 'It is only measured.' },
        }),
    },
    {
      name: `install on ${sites} sites`,
      run: (round) =>
        client.call('applyRecipe', {
          params: { recipe: recipeKey(1) },
          body: {
            name: `Install ${round}`,
            targets: Array.from({ length: sites }, (_, i) => ({
              site: siteKey(i + 1),
              values: [{ name: 'room', value: `R${i}` }],
            })),
          },
        }),
    },
  ];
}

async function measure(call: Call, database: pg.Client): Promise<Figures> {
  const runs = call.name.startsWith('install') ? 3 : RUNS;
  const times: number[] = [];
  const counts: { calls: number; rows: number }[] = [];
  let bytes = 0;
  for (let round = -1; round < runs; round++) {
    await call.before?.(round);
    await database.query('select pg_stat_statements_reset()');
    const start = performance.now();
    const answer = await call.run(round);
    const ms = performance.now() - start;
    const {
      rows: [counted],
    } = await database.query<{ calls: number; rows: number }>(
      `select coalesce(sum(calls), 0)::int as calls, coalesce(sum(rows), 0)::int as rows from pg_stat_statements
       where query not like '%pg_stat_statements%' and query <> 'select $1' and query not like '%summed_revision%'`,
    );
    if (round < 0) continue;
    times.push(ms);
    counts.push(counted!);
    bytes = JSON.stringify((answer as { data?: unknown }).data ?? '').length;
  }
  times.sort((a, b) => a - b);
  const at = (quantile: number): number =>
    times[Math.min(times.length - 1, Math.floor(times.length * quantile))]!;
  const median = (of: (count: { calls: number; rows: number }) => number): number =>
    counts.map(of).sort((a, b) => a - b)[counts.length >> 1]!;
  return {
    isList: call.isList === true,
    p50: at(0.5),
    p95: at(0.95),
    statements: median(({ calls: number }) => number),
    rows: median(({ rows }) => rows),
    kilobytes: bytes / 1024,
  };
}

async function run(scale: Scale): Promise<Map<string, Figures>> {
  const origin = await startOrigin(scale.pages);
  const service = await startService({ shared_preload_libraries: 'pg_stat_statements' });
  try {
    const { database, client } = service;
    await database.query('create extension pg_stat_statements');
    let start = performance.now();
    await fill(database.url, scale, origin.port);
    console.log(`\n${words(scale)}: filled in ${seconds(start)} s`);
    start = performance.now();
    for (;;) {
      const sites = await listAllSites(client);
      if (sites.length === scale.sites && sites.every(({ isBeingChecked }) => !isBeingChecked)) break;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
    console.log(`all of it checked in ${seconds(start)} s, off every request`);
    const [size] = await database.query<{ releases: string; contents: string }>(
      `select pg_size_pretty(pg_total_relation_size('release')) as releases,
         pg_size_pretty(pg_total_relation_size('release_content')) as contents`,
    );
    console.log(
      `${scale.sites * scale.releases} releases take ${size!.releases}, what they hold ${size!.contents}`,
    );
    const measured = new Map<string, Figures>();
    const counter = new pg.Client({ connectionString: database.url });
    await counter.connect();
    for (const call of calls(service, scale)) {
      const name = call.name.replace(/on \d+ sites/, 'on all sites');
      measured.set(name, await measure(call, counter));
    }
    await counter.end();
    return measured;
  } finally {
    await service.stop();
    origin.close();
  }
}

const words = ({ sites, snippets, releases, pages }: Scale): string =>
  `${sites} sites × ${snippets} snippets × ${releases} releases × ${pages} pages`;

function seconds(start: number): string {
  return ((performance.now() - start) / 1_000).toFixed(1);
}

const whole = share(FULL, Number(process.argv[2] ?? 1));
console.log(`${cpus().length} cores, Node ${process.version}. ${RUNS} runs each, one after the other.`);
const small = await run(share(whole, 0.1));
const large = await run(whole);
console.log(`\n${'call'.padEnd(26)}   p50 ms   p95 ms   statements   rows      KB   × the tenth (p50)   bar`);
for (const [name, { isList, p50, p95, statements, rows, kilobytes }] of large) {
  const growth = p50 / small.get(name)!.p50;
  const bar = !isList ? '' : p95 <= LIST_MS ? 'reached' : 'NOT reached';
  console.log(
    `${name.padEnd(26)} ${p50.toFixed(1).padStart(8)} ${p95.toFixed(1).padStart(8)} ${String(statements).padStart(12)} ${String(rows).padStart(6)} ${kilobytes.toFixed(0).padStart(7)} ${growth.toFixed(1).padStart(19)}   ${bar}`,
  );
}
