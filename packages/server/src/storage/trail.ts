import { RELEASE_CHANNEL } from '@pragmatica/contract';
import type { TrailChange } from '@pragmatica/core';
import { deferMessages } from '../language/speech.js';
import { currentAsker } from './asker.js';
import { emOf } from './em.js';
import { AuditEntity, TrailChangeEntity } from './entities/index.js';
import { fromTrail, toStored } from './deferred-words.js';
import type { AuditEntry, Site } from './rows.js';
import { allOf, hasWords } from './search.js';
import type { Store } from './store.js';

/**
 * Adds an entry to the trail: who did what, to which site. What it did to the draft is added by itself (`TrailKeeper`).
 *
 * @param message - what was done, in a sentence: what it says when called is said to each reader in their language
 * @param changes - what it did to other things, before and after
 */
export function audit(
  store: Store,
  site: Site | null,
  by: string,
  action: string,
  message: () => string,
  changes: readonly TrailChange[] = [],
): void {
  const em = emOf(store);
  const { words, said } = toStored(deferMessages(message));
  const entry = em.create(
    AuditEntity,
    { site, by, action, message: words, said, at: new Date(), ...currentAsker() },
    { persist: true },
  );
  for (const change of changes) em.create(TrailChangeEntity, { entry, ...change }, { persist: true });
}

/** A site's last entries, the newest first. */
export async function lastEntries(store: Store, site: Site, limit: number): Promise<readonly AuditEntry[]> {
  const entries = await emOf(store).find(AuditEntity, { site }, { orderBy: { id: 'desc' }, limit });
  return entries.map((entry) => ({ ...entry, message: fromTrail(entry.message, entry.said ?? null) }));
}

/** Which entries of the trail are wanted; what is left out says nothing. */
export interface TrailFilter {
  /** Undefined for all, and what is about no site. */
  readonly site: Pick<Site, 'id'> | undefined;
  /** That it says, all of them. */
  readonly words?: string | undefined;
  readonly by?: string | undefined;
  /** Key of a snippet that it changed. */
  readonly snippet?: string | undefined;
  /** Those with a lower id. */
  readonly before?: number | undefined;
}

/** An entry as lists show it. */
export interface ListedEntry {
  readonly id: number;
  readonly site: string | null;
  readonly siteName: string | null;
  readonly action: string;
  readonly message: string;
  readonly by: string;
  readonly token: string | null;
  readonly address: string | null;
  readonly at: Date;
  /** Whether it changed the draft. */
  readonly changedDraft: boolean;
}

const COLUMNS = `a.id, s.key as site, s.name as "siteName", a.action, a.message, a.said, a."by", a.token, a.address, a.at,
  exists (select from trail_change c where c.entry_id = a.id and c.kind in ('snippet', 'site')) as "changedDraft"`;

/** Entries of the trail, the newest first. One query. */
export async function findEntries(
  store: Store,
  { site, words = '', by, snippet, before }: TrailFilter,
  limit: number,
): Promise<ListedEntry[]> {
  const where = allOf(
    site === undefined ? TRUE : { sql: 'a.site_id = ?', params: [site.id] },
    hasWords(['a.message', 'a."by"', 'a.action'], words),
    by === undefined ? TRUE : { sql: 'a."by" = ?', params: [by] },
    before === undefined ? TRUE : { sql: 'a.id < ?', params: [before] },
    snippet === undefined
      ? TRUE
      : {
          sql: `a.id in (select c.entry_id from trail_change c where c.key = ? and c.kind = 'snippet')`,
          params: [snippet],
        },
  );
  const rows = await emOf(store).execute<EntryRow[]>(
    `select ${COLUMNS} from audit a left join site s on s.id = a.site_id where ${where.sql} order by a.id desc limit ?`,
    [...where.params, limit],
  );
  return rows.map(toListed);
}

const TRUE = { sql: 'true', params: [] };

/** One entry of a site, with what it did. Two queries. @returns undefined where the site has none of this id */
export async function findEntry(
  store: Store,
  site: Site,
  id: number,
): Promise<{ readonly entry: ListedEntry; readonly changes: readonly TrailChange[] } | undefined> {
  const em = emOf(store);
  const [row] = await em.execute<EntryRow[]>(
    `select ${COLUMNS} from audit a join site s on s.id = a.site_id where a.id = ? and s.id = ?`,
    [id, site.id],
  );
  if (!row) return undefined;
  const changes = await em.execute<TrailChange[]>(
    `select kind, key, before, after from trail_change where entry_id = ? order by id`,
    [id],
  );
  return { entry: toListed(row), changes };
}

interface EntryRow extends ListedEntry {
  readonly said: string | null;
}

function toListed({ said, ...row }: EntryRow): ListedEntry {
  return { ...row, message: fromTrail(row.message, said), at: new Date(row.at) };
}

/** A snippet that was taken out of a draft, and by which entry. */
export interface RemovedSnippet {
  readonly key: string;
  readonly name: string;
  readonly entry: number;
  readonly by: string;
  readonly at: Date;
}

/** Snippets that a draft had and has no more, the last that went first. One query. */
export async function removedSnippets(store: Store, site: Site, limit: number): Promise<RemovedSnippet[]> {
  const rows = await emOf(store).execute<RemovedSnippet[]>(
    `select * from (
       select distinct on (c.key) c.key, c.before ->> 'name' as name, c.entry_id as entry, a."by", a.at
       from trail_change c join audit a on a.id = c.entry_id
       where a.site_id = ? and c.kind = 'snippet' and c.after is null
         and not exists (select from snippet n where n.site_id = a.site_id and n.key = c.key)
       order by c.key, c.id desc) gone
     order by entry desc, key limit ?`,
    [site.id, limit],
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at) }));
}

/** Tells all gateways that a site serves something else, once the transaction commits. */
export async function notifyGateways(store: Store, site: Pick<Site, 'key'>): Promise<void> {
  await emOf(store).execute('select pg_notify(?, ?)', [RELEASE_CHANNEL, site.key]);
}
