import type { RecipeUseResource } from '@pragmatica/contract';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** A recipe and the number of its newest version. */
export interface NewestVersion {
  readonly key: string;
  readonly version: number;
}

export interface InstallCount {
  readonly recipe: string;
  readonly installs: number;
  /** How many of them follow an older version. */
  readonly behind: number;
}

/** Snippets of drafts that are installs of these recipes: those that follow one, and those whose code tells. */
const USES = `
  select s.id, s.site_id, s.key, s.name, s.state, n.key as recipe, (s.recipe ->> 'version')::int as version,
    (s.recipe ->> 'version')::int < n.version as behind
  from newest n join snippet s on s.recipe ->> 'key' = n.key and s.recipe is not null
  where s.state <> 'archived'
  union all
  select s.id, s.site_id, s.key, s.name, s.state, n.key, null, false
  from newest n join recognised_use u on u.recipe = n.key join snippet s on s.id = u.snippet_id
  where s.recipe is null and s.state <> 'archived'`;

const NEWEST = `newest as (select * from jsonb_to_recordset(?::jsonb) as n ("key" text, version int))`;

/** How many installs recipes have, of those that have any. One query. */
export async function countInstalls(store: Store, newest: readonly NewestVersion[]): Promise<InstallCount[]> {
  const em = emOf(store);
  return em.execute<InstallCount[]>(
    `with ${NEWEST}, uses as (${USES})
     select recipe, count(*)::int as installs, count(*) filter (where behind)::int as behind from uses group by recipe`,
    [toJson(newest)],
  );
}

/** The installs of one recipe, by site. One query. */
export async function listInstalls(store: Store, newest: NewestVersion): Promise<RecipeUseResource[]> {
  const em = emOf(store);
  return em.execute<RecipeUseResource[]>(
    `with ${NEWEST}, uses as (${USES})
     select t.key as site, t.name as "siteName", u.key as snippet, u.name, u.state, u.version, u.behind as "isBehind"
     from uses u join site t on t.id = u.site_id
     order by t.name collate "natural", t.id, u.id`,
    [toJson([newest])],
  );
}

/** An install of a recipe at a site, for those sites that have one. @returns by site id, in words */
export async function installsAt(
  store: Store,
  recipe: NewestVersion,
  sites: readonly number[],
): Promise<Map<number, string>> {
  const em = emOf(store);
  const rows = await em.execute<{ site: number; name: string }[]>(
    `with ${NEWEST}, uses as (${USES})
     select distinct on (site_id) site_id as site, name from uses where site_id = any(?::int[]) order by site_id, id`,
    [toJson([recipe]), `{${sites.join()}}`],
  );
  return new Map(rows.map(({ site, name }) => [site, name]));
}

/** A snippet that follows an older version of its recipe. */
export interface BehindSnippet {
  readonly site: number;
  readonly snippet: number;
}

/** Snippets that are behind, by site. One query. */
export async function listBehind(
  store: Store,
  newest: readonly NewestVersion[],
  site?: string,
): Promise<BehindSnippet[]> {
  const em = emOf(store);
  return em.execute<BehindSnippet[]>(
    `with ${NEWEST}, uses as (${USES})
     select u.site_id as site, u.id as snippet from uses u join site t on t.id = u.site_id
     where u.behind ${site === undefined ? '' : 'and t.key = ?'}
     order by t.name collate "natural", t.id, u.id`,
    [toJson(newest), ...(site === undefined ? [] : [site])],
  );
}

function toJson(newest: readonly NewestVersion[]): string {
  return JSON.stringify(newest.map(({ key, version }) => ({ key, version })));
}
