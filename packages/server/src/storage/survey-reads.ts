import type {
  ComposedPages,
  Composition,
  ItemKind,
  PageTrait,
  PageType,
  PagesOfSides,
  ShapeKind,
  SightedAccount,
  SomePages,
} from '@pragmatica/core';
import { emOf } from './em.js';
import { hasWords } from './search.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';
import type { PageOutcome } from './survey-pages.js';

/** What a survey saw, by composition: a few rows, however many pages there are. */
export async function composedPages(
  store: Store,
  survey: number,
): Promise<{
  readonly groups: readonly ComposedPages[];
  readonly compositions: ReadonlyMap<number, Composition>;
}> {
  const em = emOf(store);
  const groups = await em.execute<ComposedPages[]>(
    `select composition_id as composition, section, type, count(*)::int as pages,
       (array_agg(path order by depth, path))[1:3] as examples
     from survey_page where survey_id = ? and state = 2 and composition_id is not null
     group by composition_id, section, type order by min(depth), min(path)`,
    [survey],
  );
  const ids = [...new Set(groups.map(({ composition }) => composition))];
  const rows = await em.execute<{ id: number; body: Composition }[]>(
    'select id, body from composition where id = any(?::int[])',
    [`{${ids.join()}}`],
  );
  return { groups, compositions: new Map(rows.map(({ id, body }) => [id, body])) };
}

export interface SightingRow {
  readonly id: number;
  readonly key: string;
  readonly kind: ItemKind;
  readonly name: string;
  readonly provider: string;
  readonly shape: ShapeKind;
  readonly accounts: readonly SightedAccount[];
  readonly loads: readonly string[];
  readonly code: string;
  readonly before: string;
  readonly after: string;
  readonly firstPath: string;
  readonly ignored: { readonly reason: string; readonly by: string; readonly at: string } | null;
  readonly adopted: { readonly snippet: string; readonly by: string; readonly at: string } | null;
}

const SIGHTING = `select s.id, s.key, s.kind, s.name, s.provider, s.shape, s.accounts, s.loads, t.body as code, s.before,
  s.after, s.first_path as "firstPath", s.ignored, s.adopted from sighting s join survey_text t on t.id = s.code_id`;

/** Sightings of a site by their keys. */
export async function sightingsByKey(
  store: Store,
  site: Pick<Site, 'id'>,
  keys: readonly string[],
): Promise<readonly SightingRow[]> {
  if (keys.length === 0) return [];
  return emOf(store).execute<SightingRow[]>(
    `${SIGHTING} where s.site_id = ? and s.key = any(?::char(32)[]) order by s.id`,
    [site.id, `{${keys.join()}}`],
  );
}

export async function sightingById(
  store: Store,
  site: Pick<Site, 'id'>,
  id: number,
): Promise<SightingRow | undefined> {
  const [row] = await emOf(store).execute<SightingRow[]>(`${SIGHTING} where s.site_id = ? and s.id = ?`, [
    site.id,
    id,
  ]);
  return row;
}

/** Marks sightings, or takes the mark off. */
export async function markSightings(
  store: Store,
  site: Pick<Site, 'id'>,
  ids: readonly number[],
  mark: 'ignored' | 'adopted',
  value: object | null,
): Promise<void> {
  await emOf(store).execute(
    `update sighting set ${mark} = ?::jsonb where site_id = ? and id = any(?::int[])`,
    [value === null ? null : JSON.stringify(value), site.id, `{${ids.join()}}`],
  );
}

export interface SurveyPageRow {
  readonly path: string;
  readonly state: number;
  readonly outcome: PageOutcome | null;
  readonly status: number | null;
  readonly title: string | null;
  readonly type: PageType | null;
  readonly section: string | null;
  readonly foundBy: string;
  readonly language: string | null;
  readonly charset: string | null;
  readonly charsetFrom: string | null;
  readonly canonical: string | null;
  readonly leadsTo: string | null;
  readonly bytes: number | null;
  readonly composition: number | null;
  readonly traits: readonly PageTrait[];
}

const PAGE = `p.path, p.state, p.outcome, p.status, p.title, p.type, p.section, p.found_by as "foundBy", p.language, p.charset,
  p.charset_from as "charsetFrom", p.canonical, p.leads_to as "leadsTo", p.bytes, p.composition_id as composition, p.traits`;

export interface SurveyPageListing {
  readonly searched: string;
  readonly section?: string | undefined;
  readonly type?: PageType | undefined;
  readonly only: 'all' | 'problems' | 'redirects';
  readonly trait?: PageTrait | undefined;
  /** Only pages that stand on one of these. */
  readonly compositions?: readonly number[] | undefined;
  readonly limit: number;
  /** The path of the last row of the page before. */
  readonly after?: readonly [path: string] | undefined;
}

const ONLY = {
  all: 'true',
  problems: `p.outcome in ('error', 'unreachable', 'unreadable', 'too-large', 'forbidden') or p.status >= 400`,
  redirects: `p.outcome = 'redirect' or p.leads_to is not null`,
} as const;

/** Pages of a survey by path, and how many fit. */
export async function listSurveyPages(
  store: Store,
  survey: number,
  { searched, section, type, only, trait, compositions, limit, after }: SurveyPageListing,
): Promise<{ readonly rows: readonly SurveyPageRow[]; readonly total: number }> {
  const em = emOf(store);
  const words = hasWords(['p.path', 'p.title'], searched);
  const where = `p.survey_id = ? and (${ONLY[only]}) and ${words.sql}
    ${section === undefined ? '' : 'and p.section = ?'} ${type === undefined ? '' : 'and p.type = ?'}
    ${compositions === undefined ? '' : 'and p.composition_id = any(?::int[])'}
    ${trait === undefined ? '' : 'and p.traits @> ?::jsonb'}`;
  const params = [
    survey,
    ...words.params,
    ...(section === undefined ? [] : [section]),
    ...(type === undefined ? [] : [type]),
    ...(compositions === undefined ? [] : [`{${compositions.join()}}`]),
    ...(trait === undefined ? [] : [JSON.stringify([trait])]),
  ];
  const [counted] = await em.execute<{ total: number }[]>(
    `select count(*)::int as total from survey_page p where ${where}`,
    params,
  );
  const rows = await em.execute<SurveyPageRow[]>(
    `select ${PAGE} from survey_page p where ${where} ${after ? 'and p.path > ?' : ''} order by p.path limit ?`,
    [...params, ...(after ?? []), limit + 1],
  );
  return { rows, total: counted!.total };
}

export interface SurveyPageDetailRow extends SurveyPageRow {
  readonly starts: readonly number[] | null;
  /** JSON. */
  readonly policies: string | null;
}

export async function surveyPageByPath(
  store: Store,
  survey: number,
  path: string,
): Promise<SurveyPageDetailRow | undefined> {
  const [row] = await emOf(store).execute<SurveyPageDetailRow[]>(
    `select ${PAGE}, p.starts, t.body as policies from survey_page p left join survey_text t on t.id = p.policies_id
     where p.survey_id = ? and p.path = ?`,
    [survey, path],
  );
  return row;
}

/** Paths of the pages on some compositions, by path. */
export async function pathsOn(
  store: Store,
  survey: number,
  compositions: readonly number[] | undefined,
  limit: number,
): Promise<string[]> {
  const rows = await emOf(store).execute<{ path: string }[]>(
    `select path from survey_page where survey_id = ? and state = 2 and composition_id is not null
       ${compositions === undefined ? '' : 'and composition_id = any(?::int[])'} order by path limit ?`,
    [survey, ...(compositions === undefined ? [] : [`{${compositions.join()}}`]), limit],
  );
  return rows.map(({ path }) => path);
}

/** Pages that one survey read and another did not: how many, and the first of them. */
export async function pagesOnlyIn(store: Store, survey: number, other: number): Promise<SomePages> {
  const [row] = await emOf(store).execute<SomePages[]>(
    `select count(*)::int as count, coalesce(min(p.path), '') as example ${ONLY_IN}`,
    [survey, other],
  );
  return row!;
}

const ONLY_IN = `from survey_page p where p.survey_id = ? and p.outcome = 'read' and p.status < 400 and not exists (
  select 1 from survey_page o where o.survey_id = ? and o.path = p.path and o.outcome = 'read' and o.status < 400)`;

/** Paths of pages that one survey read and another did not. */
export async function pathsOnlyIn(
  store: Store,
  survey: number,
  other: number,
  limit: number,
): Promise<string[]> {
  const rows = await emOf(store).execute<{ path: string }[]>(
    `select p.path ${ONLY_IN} order by p.path limit ?`,
    [survey, other, limit],
  );
  return rows.map(({ path }) => path);
}

/**
 * Pages that one survey read and a later one did not.
 *
 * @returns each with what it answered the later one: null where nothing did, undefined where that did not come to it
 */
export async function lostPages(
  store: Store,
  before: number,
  after: number,
  limit: number,
): Promise<readonly { readonly path: string; readonly status: number | null | undefined }[]> {
  const rows = await emOf(store).execute<{ path: string; status: number | null; isSeen: boolean }[]>(
    `select p.path, n.status, n.id is not null as "isSeen"
     from survey_page p left join survey_page n on n.survey_id = ? and n.path = p.path
     where p.survey_id = ? and p.outcome = 'read' and p.status < 400
       and (n.id is null or n.outcome is distinct from 'read' or n.status >= 400)
     order by p.path limit ?`,
    [after, before, limit],
  );
  return rows.map(({ path, status, isSeen }) => ({ path, status: isSeen ? status : undefined }));
}

/** Pages that two surveys read, by what they stand on in each. */
export async function pagesOfSides(
  store: Store,
  visitors: number,
  origin: number,
): Promise<readonly PagesOfSides[]> {
  return emOf(store).execute(
    `select v.composition_id as visitors, o.composition_id as origin, count(*)::int as pages, min(v.path) as example
     from survey_page v join survey_page o on o.survey_id = ? and o.path = v.path
     where v.survey_id = ? and v.composition_id is not null and o.composition_id is not null
     group by v.composition_id, o.composition_id order by count(*) desc`,
    [origin, visitors],
  );
}

/** Pages that two surveys read, of which something is not the same: how many, and the first of them. */
export async function pagesThatDiffer(
  store: Store,
  visitors: number,
  origin: number,
  column: 'policies_id' | 'skeleton_id',
): Promise<SomePages> {
  const [row] = await emOf(store).execute<SomePages[]>(
    `select count(*)::int as count, coalesce(min(v.path), '') as example
     from survey_page v join survey_page o on o.survey_id = ? and o.path = v.path
     where v.survey_id = ? and v.outcome = 'read' and o.outcome = 'read' and v.${column} is distinct from o.${column}`,
    [origin, visitors],
  );
  return row!;
}

/** Skeletons of the pages that a survey read, those of most pages first, each with one of its pages. */
export async function skeletonsOf(
  store: Store,
  survey: number,
  limit: number,
): Promise<readonly { readonly path: string; readonly html: string }[]> {
  return emOf(store).execute(
    `select s.path, t.body as html from (
       select skeleton_id, min(path) as path, count(*) as pages from survey_page
       where survey_id = ? and state = 2 and skeleton_id is not null and status < 400 group by skeleton_id
       order by count(*) desc, min(path) limit ?) s
     join survey_text t on t.id = s.skeleton_id order by s.pages desc, s.path`,
    [survey, limit],
  );
}

/** What somebody ignores or has adopted, by key. */
export async function marksOf(
  store: Store,
  site: Pick<Site, 'id'>,
): Promise<ReadonlyMap<string, Pick<SightingRow, 'ignored' | 'adopted'>>> {
  const rows = await emOf(store).execute<Pick<SightingRow, 'key' | 'ignored' | 'adopted'>[]>(
    'select "key", ignored, adopted from sighting where site_id = ? and (ignored is not null or adopted is not null)',
    [site.id],
  );
  return new Map(rows.map(({ key, ignored, adopted }) => [key, { ignored, adopted }]));
}

/** Keys of the sightings that somebody ignores. */
export async function ignoredKeys(store: Store, site: Pick<Site, 'id'>): Promise<ReadonlySet<string>> {
  const rows = await emOf(store).execute<{ key: string }[]>(
    'select "key" from sighting where site_id = ? and ignored is not null',
    [site.id],
  );
  return new Set(rows.map(({ key }) => key));
}

/** Traits of a survey's pages, with how many pages have each and the first of them. */
export async function traitsOf(
  store: Store,
  survey: number,
): Promise<readonly { readonly trait: PageTrait; readonly pages: number; readonly example: string }[]> {
  return emOf(store).execute(
    `select t.trait, count(*)::int as pages, min(p.path) as example
     from survey_page p cross join lateral jsonb_array_elements_text(p.traits) as t(trait)
     where p.survey_id = ? and p.traits <> '[]' group by t.trait`,
    [survey],
  );
}

/** Policies of a survey's pages, with the pages that come with each. */
export async function policiesOf(
  store: Store,
  survey: number,
  limit: number,
): Promise<readonly { readonly body: string; readonly pages: number; readonly paths: readonly string[] }[]> {
  return emOf(store).execute(
    `select t.body, count(*)::int as pages, (array_agg(p.path order by p.path))[1:10000] as paths
     from survey_page p join survey_text t on t.id = p.policies_id
     where p.survey_id = ? and p.state = 2 and p.status < 400 group by t.id order by count(*) desc limit ?`,
    [survey, limit],
  );
}
