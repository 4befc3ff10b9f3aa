import type { Composition, Sighting } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** A text that is kept once: code, a skeleton, policies. */
export interface DeferredText {
  /** 32 hex digits. */
  readonly digest: string;
  readonly body: string;
}

/** A sighting with where it was seen first. */
export interface NewSighting extends Sighting {
  readonly form: string;
  readonly path: string;
  /** What stands around it in that page. */
  readonly before: string;
  readonly after: string;
  /** It stands there as a piece of a part of ours. */
  readonly isOurs: boolean;
}

/** Keeps texts that are not kept yet. @returns ids by digest */
export async function keepTexts(
  store: Store,
  texts: readonly DeferredText[],
): Promise<ReadonlyMap<string, number>> {
  if (texts.length === 0) return new Map();
  const em = emOf(store);
  // NUL has no place in a text of the database.
  const clean = texts.map(({ digest, body }) => ({ digest, body: body.replaceAll('\0', '\ufffd') }));
  await em.execute(
    `insert into survey_text (digest, body)
       select digest, body from jsonb_to_recordset(?::jsonb) as t(digest char(32), body text) order by digest
     on conflict (digest) do nothing`,
    [JSON.stringify(clean)],
  );
  const rows = await em.execute<{ id: number; digest: string }[]>(
    'select id, digest from survey_text where digest = any(?::char(32)[])',
    [`{${texts.map(({ digest }) => digest).join()}}`],
  );
  return new Map(rows.map(({ digest, id }) => [digest, id]));
}

/** Keeps sightings that the site has not had yet; what was seen as ours is shown where it is not, if it ever is. @param codeOf - id of the text of a form */
export async function keepSightings(
  store: Store,
  siteId: number,
  sightings: readonly NewSighting[],
  codeOf: (form: string) => number,
): Promise<void> {
  if (sightings.length === 0) return;
  const rows = sightings.map(({ form, ...sighting }) => ({ ...sighting, code: codeOf(form) }));
  await emOf(store).execute(
    `insert into sighting (site_id, "key", kind, name, provider, shape, accounts, loads, code_id, before, after, first_path,
         is_ours)
       select ?, "key", kind, name, provider, shape, accounts, loads, code, before, after, path, "isOurs"
       from jsonb_to_recordset(?::jsonb) as s("key" char(32), kind text, name text, provider text, shape text,
         accounts jsonb, loads jsonb, code int, before text, after text, path text, "isOurs" boolean) order by "key"
     on conflict (site_id, "key") do update set code_id = excluded.code_id, before = excluded.before, after = excluded.after,
       first_path = excluded.first_path, is_ours = false where sighting.is_ours and not excluded.is_ours`,
    [siteId, JSON.stringify(rows).replaceAll('\\u0000', '\\ufffd')],
  );
}

/** Keeps compositions that the site has not had yet. @returns ids by digest */
export async function keepCompositions(
  store: Store,
  siteId: number,
  compositions: readonly { readonly digest: string; readonly body: Composition }[],
): Promise<ReadonlyMap<string, number>> {
  if (compositions.length === 0) return new Map();
  const em = emOf(store);
  await em.execute(
    `insert into composition (site_id, digest, body)
       select ?, digest, body from jsonb_to_recordset(?::jsonb) as c(digest char(32), body jsonb) order by digest
     on conflict (site_id, digest) do nothing`,
    [siteId, JSON.stringify(compositions)],
  );
  const rows = await em.execute<{ id: number; digest: string }[]>(
    'select id, digest from composition where site_id = ? and digest = any(?::char(32)[])',
    [siteId, `{${compositions.map(({ digest }) => digest).join()}}`],
  );
  return new Map(rows.map(({ digest, id }) => [digest, id]));
}
