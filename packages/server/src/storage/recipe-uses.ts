import type { RecipeUseResource } from '@pragmatica/contract';
import { emOf } from './em.js';
import { ofSites, type SomeSites } from './search.js';
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

/** How many installs recipes have at some sites, of those that have any. One query. */
export async function countInstalls(
  store: Store,
  newest: readonly NewestVersion[],
  seen: SomeSites,
): Promise<InstallCount[]> {
  const em = emOf(store);
  const visible = ofSites('t.key', seen);
  return em.execute<InstallCount[]>(
    `with ${NEWEST}, uses as (${USES})
     select recipe, count(*)::int as installs, count(*) filter (where behind)::int as behind
     from uses ${seen === 'all' ? '' : `join site t on t.id = site_id where ${visible.sql}`} group by recipe`,
    [toJson(newest), ...visible.params],
  );
}

/** The installs of one recipe at some sites, by site. One query. */
export async function listInstalls(
  store: Store,
  newest: NewestVersion,
  seen: SomeSites,
): Promise<RecipeUseResource[]> {
  const em = emOf(store);
  const visible = ofSites('t.key', seen);
  return em.execute<RecipeUseResource[]>(
    `with ${NEWEST}, uses as (${USES})
     select t.key as site, t.name as "siteName", u.key as snippet, u.name, u.state, u.version, u.behind as "isBehind"
     from uses u join site t on t.id = u.site_id
     where ${visible.sql}
     order by t.name collate "natural", t.id, u.id`,
    [toJson([newest]), ...visible.params],
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
  { only, seen }: { readonly only?: string | undefined; readonly seen: SomeSites },
): Promise<BehindSnippet[]> {
  const em = emOf(store);
  const visible = ofSites('t.key', seen);
  return em.execute<BehindSnippet[]>(
    `with ${NEWEST}, uses as (${USES})
     select u.site_id as site, u.id as snippet from uses u join site t on t.id = u.site_id
     where u.behind ${only === undefined ? '' : 'and t.key = ?'} and ${visible.sql}
     order by t.name collate "natural", t.id, u.id`,
    [toJson(newest), ...(only === undefined ? [] : [only]), ...visible.params],
  );
}

function toJson(newest: readonly NewestVersion[]): string {
  return JSON.stringify(newest.map(({ key, version }) => ({ key, version })));
}
