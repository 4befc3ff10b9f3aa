import type { Field } from '@pragmatica/core';
import { toPage } from './cursor.js';
import { allOf, hasWords, ofSites, type SomeSites } from './search.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** What rows are sorted by: name and id of the site, place among its fields. */
export type FieldPosition = readonly [siteName: string, site: number, place: number];

export interface FieldListing {
  readonly searched: string;
  readonly limit: number;
  readonly after?: FieldPosition | undefined;
  readonly name?: string | undefined;
  /** Those that are asked for. */
  readonly sites: SomeSites;
  /** Those that whoever asks may see. */
  readonly seen: SomeSites;
}

export interface StoredField {
  readonly siteId: number;
  readonly site: string;
  readonly siteName: string;
  readonly place: number;
  readonly field: Field;
}

/** A page of the fields of sites. One query. */
export async function listFields(
  store: Store,
  { searched, limit, after, name, sites, seen }: FieldListing,
): Promise<{ rows: readonly StoredField[]; next: string | null }> {
  const em = emOf(store);
  const words = hasWords(['s.key', 's.name', `f ->> 'name'`, `f ->> 'label'`], searched);
  const visible = allOf(ofSites('s.key', sites), ofSites('s.key', seen));
  const found = await em.execute<StoredField[]>(
    `select s.id as "siteId", s.key as site, s.name as "siteName", place::int as place, f as field
     from site s, jsonb_array_elements(s.fields) with ordinality as own (f, place)
     where ${words.sql} ${name === undefined ? '' : `and f ->> 'name' = ?`} and ${visible.sql}
     ${after ? 'and (s.name collate "natural", s.id, place) > (? collate "natural", ?::int, ?::int)' : ''}
     order by s.name collate "natural", s.id, place limit ?`,
    [...words.params, ...(name === undefined ? [] : [name]), ...visible.params, ...(after ?? []), limit + 1],
  );
  const { page: rows, next } = toPage(found, limit, ({ siteName, siteId, place }) => [
    siteName,
    siteId,
    place,
  ]);
  return { rows, next };
}

/** The names of the fields of some sites, those that most of them have first. One query. */
export async function listFieldNames(
  store: Store,
  seen: SomeSites,
): Promise<{ name: string; sites: number }[]> {
  const visible = ofSites('key', seen);
  const em = emOf(store);
  return em.execute<{ name: string; sites: number }[]>(
    `select f ->> 'name' as name, count(*)::int as sites from site, jsonb_array_elements(fields) as f
     where ${visible.sql} group by 1 order by 2 desc, 1`,
    [...visible.params],
  );
}
