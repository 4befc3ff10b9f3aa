import type { PageTrait, PageType } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** How it was heard of. */
export type FoundBy = 'front' | 'sitemap' | 'list' | 'link' | 'redirect' | 'before';

/** What became of a visit. */
export type PageOutcome =
  'read' | 'redirect' | 'not-html' | 'too-large' | 'unreadable' | 'error' | 'unreachable' | 'forbidden';

/** A page that is to be visited, and what the survey before knew of it. */
export interface TakenPage {
  readonly id: number;
  readonly path: string;
  readonly depth: number;
  readonly attempts: number;
  readonly etag: string | null;
  readonly lastModified: string | null;
  /** The page of the survey before with these validators. */
  readonly beforeId: number | null;
}

/** A page is its taker's for so long, unless the taker says again that it is at it. */
const LEASE_S = 15;

/**
 * Takes the next pages of a survey, which nobody else takes meanwhile. Pages whose taker has not come back are taken
 * again.
 *
 * @param before - a survey whose validators may be used
 */
export async function takePages(
  store: Store,
  survey: number,
  most: number,
  before: number | undefined,
): Promise<readonly TakenPage[]> {
  return emOf(store).execute<TakenPage[]>(
    `with taken as (
       update survey_page set state = 1, attempts = attempts + 1, taken_until = now() + ? * interval '1 second'
       where id in (
         select id from survey_page
         where survey_id = ? and state < 2 and (state = 0 or taken_until < now())
         order by depth, id limit ? for update skip locked)
       returning id, path, depth, attempts)
     select t.id::float8 as id, t.path, t.depth, t.attempts, b.etag, b.last_modified as "lastModified",
       b.id::float8 as "beforeId"
     from taken t left join survey_page b on b.survey_id = ? and b.path = t.path and b.state = 2
       and b.outcome = 'read' and (b.etag is not null or b.last_modified is not null)
     order by t.depth, t.id`,
    [LEASE_S, survey, most, before ?? null],
  );
}

/** Says that somebody is still at pages that were taken, so that nobody else takes them. Never waits for those that are being written down. */
export async function holdPages(store: Store, ids: readonly number[]): Promise<void> {
  if (ids.length === 0) return;
  await emOf(store).execute(
    `update survey_page set taken_until = greatest(taken_until, now() + ? * interval '1 second') where id in (
       select id from survey_page where id = any(?::bigint[]) and state = 1 for update skip locked)`,
    [LEASE_S, `{${ids.join()}}`],
  );
}

/** How many pages of a survey are still to be visited, and how many of these somebody has taken. */
export async function openPages(store: Store, survey: number): Promise<{ open: number; taken: number }> {
  const [row] = await emOf(store).execute<{ open: number; taken: number }[]>(
    `select count(*) filter (where state = 0 or taken_until < now())::int as open,
       count(*) filter (where state = 1 and taken_until >= now())::int as taken
     from survey_page where survey_id = ? and state < 2`,
    [survey],
  );
  return row!;
}

export interface NewPage {
  readonly path: string;
  readonly depth: number;
  readonly foundBy: FoundBy;
}

/** Those of some paths that a survey has not heard of. */
export async function unknownPaths(
  store: Store,
  survey: number,
  paths: readonly string[],
): Promise<string[]> {
  const rows = await emOf(store).execute<{ path: string }[]>(
    `select p.path from jsonb_array_elements_text(?::jsonb) as p(path)
     where not exists (select 1 from survey_page s where s.survey_id = ? and s.path = p.path)`,
    [JSON.stringify(paths), survey],
  );
  return rows.map(({ path }) => path);
}

/**
 * Adds pages to a survey, as far as it may have them; those that it knows are left alone.
 *
 * @param limit - pages of the survey as a whole
 * @returns how many were added
 */
export async function addPages(
  store: Store,
  survey: number,
  pages: readonly NewPage[],
  limit: number,
): Promise<number> {
  if (pages.length === 0) return 0;
  const em = emOf(store);
  // Workers add one after the other, so that the limit holds.
  const [row] = await em.execute<{ found: number }[]>('select found from survey where id = ? for update', [
    survey,
  ]);
  const room = Math.max(0, limit - (row?.found ?? limit));
  const added = await em.execute<unknown[]>(
    `insert into survey_page (survey_id, path, depth, found_by)
       select ?, path, depth, "foundBy"
       from jsonb_to_recordset(?::jsonb) as p(path text, depth smallint, "foundBy" text)
       where not exists (select 1 from survey_page s where s.survey_id = ? and s.path = p.path)
       limit ?
     on conflict (survey_id, path) do nothing returning id`,
    [survey, JSON.stringify(pages), survey, room],
  );
  await em.execute('update survey set found = found + ?, left_out = left_out + ? where id = ?', [
    added.length,
    added.length === room ? pages.length - added.length : 0,
    survey,
  ]);
  return added.length;
}

/** Counts pages of shapes. @returns for each shape how many of the asked may still be visited */
export async function countShapes(
  store: Store,
  survey: number,
  asked: readonly { readonly shape: string; readonly most: number; readonly asked: number }[],
): Promise<ReadonlyMap<string, number>> {
  if (asked.length === 0) return new Map();
  const rows = await emOf(store).execute<{ shape: string; room: number }[]>(
    `insert into survey_shape as s (survey_id, shape, most, found)
       select ?, shape, most, asked from jsonb_to_recordset(?::jsonb) as a(shape text, most int, asked int)
       order by shape
     on conflict (survey_id, shape) do update set found = s.found + excluded.found
     returning shape, s.most - s.found as room`,
    [survey, JSON.stringify(asked)],
  );
  const counts = new Map(asked.map((one) => [one.shape, one.asked]));
  return new Map(
    rows.map(({ shape, room }) => [
      shape,
      Math.max(0, Math.min(counts.get(shape)!, counts.get(shape)! + room)),
    ]),
  );
}

/** A shape of which more pages were found than were visited. */
export interface CutShape {
  readonly survey: number;
  readonly shape: string;
  readonly most: number;
  readonly found: number;
}

/** Shapes of surveys that were cut, the most frequent first. */
export async function cutShapes(store: Store, surveys: readonly number[]): Promise<readonly CutShape[]> {
  return emOf(store).execute<CutShape[]>(
    `select survey_id as survey, shape, most, found from survey_shape
     where survey_id = any(?::int[]) and found > most order by found desc, shape`,
    [`{${surveys.join()}}`],
  );
}

/** What was read of a page. */
export interface ReadPageRow {
  readonly id: number;
  readonly status: number | null;
  readonly outcome: PageOutcome;
  readonly title?: string;
  readonly type?: PageType;
  readonly section?: string;
  readonly language?: string;
  readonly charset?: string;
  readonly charsetFrom?: string;
  readonly canonical?: string | undefined;
  readonly leadsTo?: string | undefined;
  readonly skeletonId?: number;
  readonly policiesId?: number | undefined;
  readonly compositionId?: number;
  readonly etag?: string | undefined;
  readonly lastModified?: string | undefined;
  readonly bytes?: number;
  /** Where its items begin, in order. */
  readonly starts?: readonly number[];
  readonly traits?: readonly PageTrait[];
}

const FAILED: readonly PageOutcome[] = ['error', 'unreachable', 'unreadable', 'too-large'];

/** Writes down what was read of taken pages. What somebody else has written meanwhile stays as it is. */
export async function savePages(store: Store, survey: number, pages: readonly ReadPageRow[]): Promise<void> {
  if (pages.length === 0) return;
  const em = emOf(store);
  const rows = pages.map((page) => ({ ...page, starts: page.starts && `{${page.starts.join()}}` }));
  const saved = await em.execute<{ outcome: PageOutcome }[]>(
    `update survey_page p set state = 2, taken_until = null, status = r.status, outcome = r.outcome, title = r.title,
       type = r.type, section = r.section, language = r.language, charset = r.charset, charset_from = r."charsetFrom",
       canonical = r.canonical, leads_to = r."leadsTo", skeleton_id = r."skeletonId", policies_id = r."policiesId",
       composition_id = r."compositionId", etag = r.etag, last_modified = r."lastModified", bytes = r.bytes,
       starts = r.starts::int[], traits = coalesce(r.traits, '[]')
     from jsonb_to_recordset(?::jsonb) as r(id bigint, status int, outcome text, title text, type text, section text,
       language text, charset text, "charsetFrom" text, canonical text, "leadsTo" text, "skeletonId" int,
       "policiesId" int, "compositionId" int, etag text, "lastModified" text, bytes int, starts text,
       traits jsonb)
     where p.id = r.id and p.state = 1 returning p.outcome`,
    [JSON.stringify(rows)],
  );
  await countVisited(store, survey, {
    visited: saved.length,
    failed: saved.filter(({ outcome }) => FAILED.includes(outcome)).length,
    unchanged: 0,
  });
}

/** Takes over what the survey before read of pages that have not changed since. */
export async function saveUnchanged(
  store: Store,
  survey: number,
  pages: readonly { readonly id: number; readonly beforeId: number }[],
): Promise<void> {
  if (pages.length === 0) return;
  const saved = await emOf(store).execute<unknown[]>(
    `update survey_page p set state = 2, taken_until = null, status = b.status, outcome = b.outcome, title = b.title,
       type = b.type, section = b.section, language = b.language, charset = b.charset, charset_from = b.charset_from,
       canonical = b.canonical, leads_to = b.leads_to, skeleton_id = b.skeleton_id, policies_id = b.policies_id,
       composition_id = b.composition_id, etag = b.etag, last_modified = b.last_modified, bytes = b.bytes,
       starts = b.starts, traits = b.traits
     from jsonb_to_recordset(?::jsonb) as r(id bigint, "beforeId" bigint) join survey_page b on b.id = r."beforeId"
     where p.id = r.id and p.state = 1 returning p.id`,
    [JSON.stringify(pages)],
  );
  await countVisited(store, survey, { visited: saved.length, failed: 0, unchanged: saved.length });
}

async function countVisited(
  store: Store,
  survey: number,
  { visited, failed, unchanged }: { visited: number; failed: number; unchanged: number },
): Promise<void> {
  await emOf(store).execute(
    `update survey set visited = visited + ?, failed = failed + ?, unchanged = unchanged + ?, beat_at = now() where id = ?`,
    [visited, failed, unchanged, survey],
  );
}

/** Lets pages be tried again after a while. */
export async function returnPages(
  store: Store,
  pages: readonly { readonly id: number; readonly afterMs: number }[],
): Promise<void> {
  if (pages.length === 0) return;
  await emOf(store).execute(
    `update survey_page p set taken_until = now() + r."afterMs" * interval '1 millisecond'
     from jsonb_to_recordset(?::jsonb) as r(id bigint, "afterMs" int) where p.id = r.id and p.state = 1`,
    [JSON.stringify(pages)],
  );
}

/** Pages that a survey read, each with what it is made of, those nearest to the front page first. */
export async function readBuilds(
  store: Store,
  survey: number,
  limit: number,
): Promise<readonly { readonly path: string; readonly skeleton: string }[]> {
  return emOf(store).execute<{ path: string; skeleton: string }[]>(
    `select path, coalesce(skeleton_id::text, '') as skeleton from survey_page
     where survey_id = ? and state = 2 and outcome = 'read' and status < 400 order by depth, id limit ?`,
    [survey, limit],
  );
}

/** Paths of pages that were read, those nearest to the front page first. */
export async function readPaths(store: Store, survey: number, limit: number): Promise<string[]> {
  const rows = await emOf(store).execute<{ path: string }[]>(
    `select path from survey_page where survey_id = ? and state = 2 and outcome = 'read' and status < 400
     order by depth, id limit ?`,
    [survey, limit],
  );
  return rows.map(({ path }) => path);
}
