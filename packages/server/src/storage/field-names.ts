import { groupBy } from '../group-by.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

/**
 * Names of the fields that sites' drafts use, in code or as a recipe's: what core's `SiteNames` asks for. One query, and
 * no code is read.
 *
 * @returns by site id; nothing for a site that uses none
 */
export async function usedFields(
  store: Store,
  sites: readonly number[],
): Promise<Map<number, readonly string[]>> {
  const em = emOf(store);
  const ids = `{${sites.join()}}`;
  const rows = await em.execute<{ site: number; name: string }[]>(
    `select s.site_id as site, used.name from part p join snippet s on s.id = p.snippet_id,
       jsonb_array_elements_text(p.field_names) as used (name)
     where s.site_id = any(?::int[]) and p.field_names <> '[]'
     union
     select s.site_id, own.name from snippet s, jsonb_each_text(s.recipe -> 'fields') as own (recipe_name, name)
     where s.site_id = any(?::int[]) and s.recipe is not null`,
    [ids, ids],
  );
  return new Map(
    [...groupBy(rows, ({ site }) => site)].map(([site, used]) => [site, used.map(({ name }) => name)]),
  );
}
