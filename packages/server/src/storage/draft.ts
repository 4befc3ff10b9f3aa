import {
  canonicalJson,
  fieldNames,
  normalizeLimits,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from '@pragmatica/core';
import { groupBy } from '../group-by.js';
import { PartEntity, SnippetEntity } from './entities/index.js';
import type { Part, Site, Snippet } from './rows.js';
import { emOf } from './em.js';
import { saveSite } from './sites.js';
import type { Store } from './store.js';

/** A snippet of a draft that is to be changed. */
export interface DraftSnippet {
  readonly snippet: Snippet;
  readonly parts: readonly Part[];
}

/** One snippet of a draft with its parts; undefined where the site has none of this key. */
export async function loadSnippet(store: Store, site: Site, key: string): Promise<DraftSnippet | undefined> {
  const em = emOf(store);
  const snippet = await em.findOne(SnippetEntity, { site, key });
  if (!snippet) return undefined;
  return { snippet, parts: await em.find(PartEntity, { snippet }, { orderBy: { position: 'asc' } }) };
}

/** Whether a draft has a snippet of this key. */
export async function hasSnippet(store: Store, site: Site, key: string): Promise<boolean> {
  return (await emOf(store).count(SnippetEntity, { site, key })) > 0;
}

/** What snippets of a draft are called, by key; those that there are not are left out. One query. */
export async function snippetNames(
  store: Store,
  site: Site,
  keys: readonly string[],
): Promise<Map<string, string>> {
  if (keys.length === 0) return new Map();
  const rows = await emOf(store).execute<{ key: string; name: string }[]>(
    `select key, name from snippet where site_id = ? and key in (select jsonb_array_elements_text(?::jsonb))`,
    [site.id, JSON.stringify(keys)],
  );
  return new Map(rows.map(({ key, name }) => [key, name]));
}

/** Adds a snippet to a draft, without parts. @param by - the login of whoever adds it */
export function insertSnippet(
  store: Store,
  site: Site,
  { state, ...about }: Pick<Snippet, 'key' | 'state'> & SnippetValues,
  by: string,
): Snippet {
  const at = new Date();
  return emOf(store).create(
    SnippetEntity,
    {
      ...{ site, state, ...about },
      ...(state === 'on' ? {} : { stateAt: at, stateBy: by }),
      ...{ updatedBy: by, updatedAt: at, version: 1 },
    },
    { persist: true },
  );
}

/** What somebody says of a snippet. */
export type SnippetValues = Pick<
  Snippet,
  'name' | 'purpose' | 'provider' | 'note' | 'include' | 'exclude' | 'limits' | 'needs' | 'recipe'
>;

/** Changes what is named of a snippet. @param by - the login of whoever does */
export function saveSnippet(
  snippet: Snippet,
  { state, ...values }: Partial<SnippetValues & Pick<Snippet, 'state'>>,
  by: string,
): void {
  Object.assign(snippet, values, { updatedBy: by, updatedAt: new Date() });
  if (state) setState(snippet, state, by);
}

/** Takes a snippet out of a draft. */
export function removeSnippet(store: Store, snippet: Snippet): void {
  emOf(store).remove(snippet);
}

/** Snippets of a draft by their keys; those that there are not are left out. Three queries. */
export async function loadSnippetsByKey(
  store: Store,
  site: Site,
  keys: readonly string[],
): Promise<DraftSnippet[]> {
  const em = emOf(store);
  if (keys.length === 0) return [];
  const rows = await em.execute<{ id: number }[]>(
    `select id from snippet where site_id = ? and "key" in (select jsonb_array_elements_text(?::jsonb)) order by id`,
    [site.id, JSON.stringify(keys)],
  );
  return loadSnippets(
    em,
    rows.map(({ id }) => id),
  );
}

/** Snippets by their ids, with their sites and parts, in the order of the ids given: two queries. */
export async function loadSnippets(store: Store, ids: readonly number[]): Promise<DraftSnippet[]> {
  const em = emOf(store);
  const snippets = await em.find(SnippetEntity, { id: { $in: [...ids] } }, { populate: ['site'] });
  const parts = await em.find(PartEntity, { snippet: { $in: [...ids] } }, { orderBy: { position: 'asc' } });
  const bySnippet = groupBy(parts, (part) => part.snippet.id);
  const byId = new Map(snippets.map((snippet) => [snippet.id, snippet]));
  return ids.flatMap((id) => {
    const snippet = byId.get(id);
    return snippet ? [{ snippet, parts: bySnippet.get(id) ?? [] }] : [];
  });
}

/**
 * Saves a whole set that core has worked out from a draft, what it says of its site included: snippets that are new, changed and
 * gone. What is as it was is neither read nor written.
 *
 * @param by - the login of whoever changes it
 */
export async function saveDraft(
  store: Store,
  site: Site,
  before: Snapshot,
  target: Snapshot,
  by: string,
): Promise<void> {
  const em = emOf(store);
  const text = ({ stateSince: _, ...snippet }: SnapshotSnippet): string => canonicalJson(snippet);
  const old = new Map(before.snippets.map((snippet) => [snippet.key, snippet]));
  const now = new Map(target.snippets.map((snippet) => [snippet.key, snippet]));
  const touched = before.snippets.filter(({ key }) => {
    const snippet = now.get(key);
    return !snippet || text(snippet) !== text(old.get(key)!);
  });
  for (const { snippet, parts } of await loadSnippetsByKey(
    em,
    site,
    touched.map(({ key }) => key),
  )) {
    const next = now.get(snippet.key);
    if (!next) {
      removeSnippet(em, snippet);
      continue;
    }
    const state = next.state === snippet.state ? {} : { state: next.state };
    saveSnippet(snippet, { ...valuesOf(next), ...state }, by);
    saveParts(em, snippet, parts, next.parts);
  }
  await insertAll(
    em,
    site,
    target.snippets.filter(({ key }) => !old.has(key)),
    by,
  );
  if (canonicalJson(before.site) !== canonicalJson(target.site)) saveSite(site, target.site, by);
  await em.flush();
}

/** Adds a set's snippets to a draft that has none of them. @param by - the login of whoever adds them */
export async function insertSnippetsOf(
  store: Store,
  site: Site,
  { snippets }: Snapshot,
  by: string,
): Promise<void> {
  await insertAll(store, site, snippets, by);
}

/** What is flushed together: each flush looks at everything that was loaded so far. */
const AT_A_TIME = 500;

/** Their order in the draft is that in which they were added: rows of one flush are numbered in its order. */
async function insertAll(
  store: Store,
  site: Site,
  snippets: readonly SnapshotSnippet[],
  by: string,
): Promise<void> {
  const em = emOf(store);
  for (const [index, snippet] of snippets.entries()) {
    const { key, state, stateSince } = snippet;
    const added = insertSnippet(em, site, { key, state, ...valuesOf(snippet) }, by);
    if (stateSince) Object.assign(added, { stateAt: new Date(stateSince.at), stateBy: stateSince.by });
    saveParts(em, added, [], snippet.parts);
    if ((index + 1) % AT_A_TIME === 0) await em.flush();
  }
  await em.flush();
}

function valuesOf(snippet: SnapshotSnippet): SnippetValues {
  const { name, purpose, provider, note, pages, limits, needs = [], recipe } = snippet;
  return {
    ...{ name, purpose, provider, note },
    include: [...pages.include],
    exclude: [...pages.exclude],
    limits: normalizeLimits(limits) ?? {},
    needs: [...needs],
    recipe: recipe ?? null,
  };
}

/** Gives a snippet these parts, by position. */
export function saveParts(
  store: Store,
  snippet: Snippet,
  existing: readonly Part[],
  parts: readonly SnapshotPart[],
): void {
  const em = emOf(store);
  parts.forEach(({ placement, rank, code, statement = '', per = 'load' }, position) => {
    const old = existing[position];
    const values = {
      placement,
      rank,
      code,
      statement,
      per,
      fieldNames: fieldNames({ parts: [{ placement, rank, code }] }),
    };
    if (old) Object.assign(old, values);
    else em.create(PartEntity, { snippet, position, ...values }, { persist: true });
  });
  for (const part of existing.slice(parts.length)) em.remove(part);
}

/** Sets a snippet's state, and since when and by whom it is off. */
function setState(snippet: Snippet, state: SnippetState, by: string): void {
  const isNew = snippet.state !== state || snippet.stateAt == null;
  const since = state === 'on' ? { stateAt: null, stateBy: null } : { stateAt: new Date(), stateBy: by };
  Object.assign(snippet, { state }, isNew ? since : {});
}
