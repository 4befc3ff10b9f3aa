import { createHash } from 'node:crypto';
import {
  canonicalJson,
  fieldNames,
  freezeSet,
  snapshotDigest,
  type Recipe,
  type Snapshot,
  type SnapshotSnippet,
} from '@pragmatica/core';
import pg from 'pg';

/** How much there is. */
export interface Scale {
  readonly sites: number;
  /** Of each site. */
  readonly snippets: number;
  readonly releases: number;
  readonly pages: number;
}

const RECIPES = 20;
const VERSIONS = 3;
/** One snippet in so many follows a recipe. */
const FOLLOWING = 10;

export const siteKey = (site: number): string => `site-${site}`;
export const recipeKey = (recipe: number): string => `recipe-${recipe}`;

/** Puts into an empty database what years of work would have: sites, drafts, recipes and releases with one change each. */
export async function fill(url: string, scale: Scale, originPort: number): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await insert(client, 'recipe', recipes());
    for (let site = 1; site <= scale.sites; site++) await fillSite(client, site, scale, originPort);
    // Ids were given; those that come are to be others.
    for (const table of ['site', 'snippet'])
      await client.query(
        `select setval(pg_get_serial_sequence('${table}', 'id'), (select max(id) from "${table}"))`,
      );
    await client.query('analyze');
  } finally {
    await client.end();
  }
}

async function fillSite(client: pg.Client, number: number, scale: Scale, originPort: number): Promise<void> {
  const set = snapshot(number, scale.snippets);
  const { key, name, timeZone, fields = [] } = set.site;
  await client.query('begin');
  await insert(client, 'site', [{ id: number, key, name, time_zone: timeZone, fields, ...BY }]);
  const host = `${key}.localhost`;
  const origin = `http://127.0.0.1:${originPort}`;
  await insert(client, 'host', [{ site_id: number, host, environment: 'live', origin, position: 0 }]);
  const first = (number - 1) * scale.snippets;
  await insert(
    client,
    'snippet',
    set.snippets.map(({ pages, parts: _, limits: __, ...snippet }, i) => ({
      ...{ id: first + i + 1, site_id: number, ...snippet, ...pages, ...BY },
    })),
  );
  await insert(
    client,
    'part',
    set.snippets.flatMap(({ parts }, i) =>
      parts.map((part, position) => ({
        ...{ snippet_id: first + i + 1, position, ...part },
        field_names: fieldNames({ parts: [part] }),
      })),
    ),
  );
  await fillReleases(client, number, set, scale.releases);
  await insert(
    client,
    'audit',
    Array.from({ length: scale.releases * 3 }, (_, i) => ({
      ...{ site_id: number, action: 'snippet.edit', message: `“S ${i}” has new code.`, by: 'x', at: NOW },
    })),
  );
  await client.query('commit');
}

/** Each release is the one before with another note of one snippet; the last one is what the draft was a change ago. */
async function fillReleases(client: pg.Client, site: number, set: Snapshot, releases: number): Promise<void> {
  const { header, snippets } = freezeSet(set);
  const contents = [
    { key: null, body: header },
    ...snippets.map((body) => ({ key: body.key, body })),
    ...Array.from({ length: releases }, (_, i) => {
      const body = { ...snippets[i % snippets.length]!, note: `Release ${i}` };
      return { key: body.key, body };
    }),
  ].map((content) => ({ ...content, digest: sha256(canonicalJson(content.body)) }));
  const ids = await insert(client, 'release_content', contents);
  const [headerId, ...held] = ids.slice(0, snippets.length + 1);
  let last = set;
  const rows = Array.from({ length: releases }, (_, i) => {
    held[i % snippets.length] = ids[snippets.length + 1 + i]!;
    last = withNote(last, i % snippets.length, `Release ${i}`);
    const isLast = i === releases - 1;
    return {
      ...{ site_id: site, number: i + 1, message: `Change ${i}`, author: 'x', created_at: NOW },
      ...{ header_id: headerId, snippets: `{${held.join()}}` },
      // Nothing looks at the digests of those that nobody serves.
      digest: isLast ? snapshotDigest(last) : sha256(`${site} ${i}`),
      snippets_on: snippets.length,
    };
  });
  const releaseIds = await insert(client, 'release', rows);
  const pointer = { site_id: site, release_id: releaseIds.at(-1), changed_by: 'x', changed_at: NOW };
  await insert(client, 'pointer', [{ ...pointer, environment: 'live' }]);
}

function withNote(set: Snapshot, index: number, note: string): Snapshot {
  return { ...set, snippets: set.snippets.map((one, i) => (i === index ? { ...one, note } : one)) };
}

function snapshot(site: number, size: number): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: {
      ...{ key: siteKey(site), name: `Site ${site}`, timeZone: 'Europe/Dublin' },
      fields: [{ name: 'account', type: 'id', label: 'Account', value: `TM-${site}` }],
    },
    snippets: Array.from({ length: size }, (_, i) => snippet(site, i)),
  };
}

/** Snippets as sites have them: loaders with accounts, queues and their events, notices, data. */
function snippet(site: number, i: number): SnapshotSnippet {
  const host = `p${i % 40}.example`;
  const codes = [
    `<script>(function(w,d,s,l,i){w[l]=w[l]||[];w[l].push({event:'start'});var f=d.getElementsByTagName(s)[0],j=d.createElement(s);j.async=true;j.src='https://${host}/c${i}.js?id='+i;f.parentNode.insertBefore(j,f);})(window,document,'script','layer${i}','CR-${i}');</script>`,
    `<script async src="https://${host}/a${i}.js?account=@{account}"></script>`,
    `<script>window.seen${i} = window.seen${i} || []; seen${i}.push({ event: 'seen-${i}' });</script>`,
    `<div id="box-${i}" class="notice">Notice ${i}</div>`,
    `<script type="application/ld+json">{ "@type": "Thing", "name": "N${i}" }</script>`,
  ];
  const [recipe, version] = [Math.floor(i / FOLLOWING) % RECIPES, 1 + (i % VERSIONS)];
  return {
    ...{ key: `s-${i}`, name: `S ${i}`, purpose: `For site ${site}.`, provider: host, note: '', state: 'on' },
    pages: { include: i % 3 === 0 ? [`/part-${i % 30}/*`] : [], exclude: [] },
    ...(i % FOLLOWING === 0 ? { recipe: { key: recipeKey(recipe), version, fields: {} } } : {}),
    parts: [{ placement: i % 5 === 3 ? 'body-end' : 'head-end', rank: i, code: codes[i % 5]! }],
  };
}

function recipes(): object[] {
  return Array.from({ length: RECIPES * VERSIONS }, (_, i) => {
    const [number, version] = [i % RECIPES, 1 + Math.floor(i / RECIPES)];
    const body: Recipe = {
      ...{ format: 'pragmatica-recipe/1', key: recipeKey(number), version, name: `Recipe ${number}` },
      ...{ provider: `P ${number}`, summary: 'Counts visits.', after: [], steps: [], repeatable: true },
      fields: [{ name: 'room', type: 'id', label: 'Room' }],
      parts: [
        {
          ...{ key: 'loader', placement: 'head-end', required: true },
          code: `<script async src="https://r${number}.example/v${version}.js?room=@{room}"></script>`,
        },
      ],
      recognise: { hosts: [`r${number}.example`], addresses: [], globals: [] },
    };
    return { key: body.key, version, body, created_by: 'x', created_at: NOW };
  });
}

const NOW = '2027-03-01T10:00:00Z';
const BY = { updated_by: 'x', updated_at: NOW } as const;

/** Adds rows in one statement. @returns their ids, in the order of the rows */
async function insert(client: pg.Client, table: string, rows: readonly object[]): Promise<number[]> {
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))].map((column) => `"${column}"`).join();
  // What a row does not name has the column's default: rows of one table name the same.
  const { rows: added } = await client.query<{ id: number }>(
    `insert into "${table}" (${columns})
       select ${columns} from jsonb_populate_recordset(null::"${table}", $1) returning id`,
    [JSON.stringify(rows.map((row) => ({ ...DEFAULTS[table], ...row })))],
  );
  return added.map(({ id }) => id);
}

/** What rows may leave out of some columns that others name. */
const DEFAULTS: Readonly<Record<string, object>> = {
  snippet: { recipe: null },
  release_content: { key: null },
};

function sha256(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}
