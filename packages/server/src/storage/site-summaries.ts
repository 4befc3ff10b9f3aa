import type { HostResource, SiteResource } from '@pragmatica/contract';
import { toPage } from './cursor.js';
import { allOf, hasWords, ofSites, type SomeSites } from './search.js';
import { emOf } from './em.js';
import { fromStored, toStored } from './deferred-words.js';
import type { Store } from './store.js';

/** What lists say of a site. */
export interface SiteSummary extends Pick<
  SiteResource,
  'snippets' | 'findings' | 'pendingChanges' | 'attention'
> {
  /** What is higher comes first. */
  readonly urgency: number;
}

/** A site as lists show it, with the summary that was kept. */
export interface SummarizedSite extends SiteSummary {
  readonly id: number;
  readonly key: string;
  readonly name: string;
  readonly timeZone: string;
  readonly hosts: readonly Required<HostResource>[];
  /** Numbers of releases. */
  readonly environments: { readonly staging?: number; readonly live?: number };
  /** Whether the summary is of what the site is now. */
  readonly isCurrent: boolean;
}

/** Which sites a list is of. */
export type SiteFilter = 'all' | 'attention' | 'unpublished';

/** What sites are sorted by: urgency, name, id. */
export type SitePosition = readonly [urgency: number, name: string, id: number];

export interface SiteListing {
  readonly searched: string;
  /** Those that whoever asks may see. */
  readonly seen: SomeSites;
  readonly filter: SiteFilter;
  readonly limit: number;
  readonly after?: SitePosition | undefined;
  /** Only those that were written since: what an earlier listing gave. */
  readonly since?: string | undefined;
}

export interface ListedSites {
  readonly sites: readonly SummarizedSite[];
  /** Where the next page begins; null on the last one. */
  readonly next: string | null;
  /** How many fit the search, and how many of them the filters. */
  readonly counts: { readonly all: number; readonly attention: number; readonly unpublished: number };
  /** For the next listing of what has changed. No change is missed: what is not yet written comes later. */
  readonly since: string;
}

const SITE = `
  select s.id, s.key, s.name, s.time_zone as "timeZone", m.snippets, m.findings, m.urgency, m.attention, m.said,
    m.pending_changes as "pendingChanges", m.revision is not distinct from m.summed_revision as "isCurrent",
    (select coalesce(json_agg(json_build_object('host', h.host, 'environment', h.environment, 'origin', h.origin,
        'address', h.address, 'transfer', h.transfer, 'delivery', h.delivery) order by h.position), '[]')
      from host h where h.site_id = s.id) as hosts,
    (select coalesce(json_object_agg(p.environment, r.number), '{}')
      from pointer p join release r on r.id = p.release_id where p.site_id = s.id) as environments
  from site s join site_summary m on m.site_id = s.id`;

interface SummaryRow extends SummarizedSite {
  readonly said: SiteSummary['attention'] | null;
}

function toSummary({ said, ...site }: SummaryRow): SummarizedSite {
  return { ...site, attention: fromStored(site.attention, said) };
}

const FILTERS: Readonly<Record<SiteFilter, string>> = {
  all: 'true',
  attention: 'm.urgency > 0',
  unpublished: `m.pending_changes > 0 and (m.snippets ->> 'on')::int > 0`,
};

const SEARCHED = ['s.key', 's.name', `(select string_agg(h.host, ' ') from host h where h.site_id = s.id)`];

/** A page of the sites, those that need somebody most first. Two queries, whatever the sites hold. */
export async function listSites(
  store: Store,
  { searched, seen, filter, limit, after, since }: SiteListing,
): Promise<ListedSites> {
  const em = emOf(store);
  const words = allOf(hasWords(SEARCHED, searched), ofSites('s.key', seen));
  const [counted] = await em.execute<(ListedSites['counts'] & { since: string })[]>(
    `select count(*)::int as "all", count(*) filter (where ${FILTERS.attention})::int as attention,
       count(*) filter (where ${FILTERS.unpublished})::int as unpublished,
       pg_snapshot_xmin(pg_current_snapshot())::text as since
     from site s join site_summary m on m.site_id = s.id where ${words.sql}`,
    [...words.params],
  );
  const { since: now, ...counts } = counted!;
  const rows = await em.execute<SummaryRow[]>(
    `${SITE}
     where ${words.sql} and ${FILTERS[filter]}
     ${since === undefined ? '' : 'and m.changed >= ?::xid8'}
     ${after ? 'and (-m.urgency, s.name collate "natural", s.id) > (-?::int, ? collate "natural", ?::int)' : ''}
     order by -m.urgency, s.name collate "natural", s.id
     limit ?`,
    [...words.params, ...(since === undefined ? [] : [since]), ...(after ?? []), limit + 1],
  );
  const { page, next } = toPage(rows, limit, ({ urgency, name, id }) => [urgency, name, id]);
  return { sites: page.map(toSummary), next, counts, since: now };
}

/** @returns undefined where there is no such site */
export async function findSummarizedSite(store: Store, id: number): Promise<SummarizedSite | undefined> {
  const em = emOf(store);
  const [site] = await em.execute<SummaryRow[]>(`${SITE} where s.id = ?`, [id]);
  return site && toSummary(site);
}

/** Sites whose summary is of an older revision, or is to be looked at again by now; those that were changed first. */
export async function staleSites(store: Store, limit: number): Promise<number[]> {
  const em = emOf(store);
  const rows = await em.execute<{ id: number }[]>(
    `select site_id as id from site_summary
     where revision is distinct from summed_revision or fresh_until <= now()
     order by revision is not distinct from summed_revision, changed limit ?`,
    [limit],
  );
  return rows.map(({ id }) => id);
}

/** Those of some sites whose summary is of an older revision. */
export async function staleAmong(store: Store, sites: readonly number[]): Promise<Set<number>> {
  const em = emOf(store);
  const rows = await em.execute<{ id: number }[]>(
    `select site_id as id from site_summary where site_id = any(?::int[]) and revision is distinct from summed_revision`,
    [`{${sites.join()}}`],
  );
  return new Set(rows.map(({ id }) => id));
}

/** Lets all summaries be looked at again, though nothing has changed at the sites. */
export async function ageSummaries(store: Store): Promise<void> {
  const em = emOf(store);
  await em.execute(
    'update site_summary set fresh_until = now() where fresh_until is null or fresh_until > now()',
  );
}

/** Lets one be looked at again: something is known that was not known before. */
export async function ageSummary(store: Store, id: number): Promise<void> {
  const em = emOf(store);
  await em.execute('update site_summary set fresh_until = now() where site_id = ?', [id]);
}

/** The revision that a site is at; a summary of what is read afterwards is of no older one. */
export async function siteRevision(store: Store, id: number): Promise<number> {
  const em = emOf(store);
  const [row] = await em.execute<{ revision: number }[]>(
    'select revision from site_summary where site_id = ?',
    [id],
  );
  return row?.revision ?? 0;
}

/** A snippet that follows no recipe and is an install of one, as its code tells. */
export interface RecognisedUse {
  readonly snippet: string;
  readonly recipe: string;
}

/** Keeps a summary, unless there is one of a newer revision. */
export async function saveSummary(
  store: Store,
  site: number,
  summary: SiteSummary,
  {
    revision,
    freshUntil,
    recognised,
  }: {
    readonly revision: number;
    readonly freshUntil?: Date | undefined;
    readonly recognised: readonly RecognisedUse[];
  },
): Promise<void> {
  const em = emOf(store);
  const attention = toStored(summary.attention);
  await em.transactional(async (transaction) => {
    const { affectedRows } = await transaction.execute<{ affectedRows: number }>(
      `update site_summary m set summed_revision = n.revision, fresh_until = n.fresh_until, snippets = n.snippets,
         findings = n.findings, pending_changes = n.pending_changes, attention = n.attention, said = n.said, urgency = n.urgency,
         changed = case
           when (m.summed_revision, m.snippets, m.findings, m.pending_changes, m.attention) is distinct from
             (n.revision, n.snippets, n.findings, n.pending_changes, n.attention) then pg_current_xact_id()
           else m.changed end
       from jsonb_to_record(?::jsonb) as n (revision int, fresh_until timestamptz, snippets jsonb, findings jsonb,
         pending_changes int, attention jsonb, said json, urgency int)
       where m.site_id = ? and (m.summed_revision is null or m.summed_revision <= n.revision)`,
      [
        JSON.stringify({
          ...summary,
          attention: attention.words,
          said: attention.said,
          pending_changes: summary.pendingChanges,
          revision,
          fresh_until: freshUntil,
        }),
        site,
      ],
      'run',
    );
    if (affectedRows === 0) return;
    await transaction.execute(
      `delete from recognised_use u using snippet s where u.snippet_id = s.id and s.site_id = ? and not exists (
         select 1 from jsonb_to_recordset(?::jsonb) as n (snippet text, recipe text)
         where n.snippet = s.key and n.recipe = u.recipe)`,
      [site, JSON.stringify(recognised)],
    );
    await transaction.execute(
      `insert into recognised_use (snippet_id, recipe)
         select s.id, u.recipe from jsonb_to_recordset(?::jsonb) as u (snippet text, recipe text)
         join snippet s on s.site_id = ? and s.key = u.snippet on conflict do nothing`,
      [JSON.stringify(recognised), site],
    );
  });
}
