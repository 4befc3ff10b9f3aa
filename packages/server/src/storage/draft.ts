import type { EntityManager } from '@mikro-orm/postgresql';
import {
  fieldNames,
  placementKey,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from '@pragmatica/core';
import { groupBy } from '../group-by.js';
import { PartEntity, SnippetEntity, type Part, type Site, type Snippet } from './entities/index.js';

/** A snippet of a draft that is to be changed. */
export interface DraftSnippet {
  readonly snippet: Snippet;
  readonly parts: readonly Part[];
}

/** One snippet of a draft with its parts; undefined where the site has none of this key. */
export async function loadSnippet(
  em: EntityManager,
  site: Site,
  key: string,
): Promise<DraftSnippet | undefined> {
  const snippet = await em.findOne(SnippetEntity, { site, key });
  if (!snippet) return undefined;
  return { snippet, parts: await em.find(PartEntity, { snippet }, { orderBy: { position: 'asc' } }) };
}

/** Snippets of a draft by their keys; those that there are not are left out. Three queries. */
export async function loadSnippetsByKey(
  em: EntityManager,
  site: Site,
  keys: readonly string[],
): Promise<DraftSnippet[]> {
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
export async function loadSnippets(em: EntityManager, ids: readonly number[]): Promise<DraftSnippet[]> {
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
 * Saves the states and parts of a set that core has worked out from a draft: what is as it was is neither read nor
 * written.
 *
 * @param by - the login of whoever changes it
 */
export async function saveDraft(
  em: EntityManager,
  site: Site,
  before: Snapshot,
  target: Snapshot,
  by: string,
): Promise<void> {
  const old = new Map(before.snippets.map((snippet) => [snippet.key, snippet]));
  const changed = new Map(
    target.snippets.flatMap((snippet) => {
      const was = old.get(snippet.key);
      return was && !isSame(was, snippet) ? [[snippet.key, snippet] as const] : [];
    }),
  );
  for (const { snippet, parts } of await loadSnippetsByKey(em, site, [...changed.keys()])) {
    const now = changed.get(snippet.key)!;
    Object.assign(snippet, { updatedBy: by, updatedAt: new Date() });
    if (now.state !== snippet.state) setState(snippet, now.state, by);
    saveParts(em, snippet, parts, now.parts);
  }
  await em.flush();
}

function isSame(a: SnapshotSnippet, b: SnapshotSnippet): boolean {
  return (
    a === b ||
    (a.state === b.state &&
      a.parts.length === b.parts.length &&
      a.parts.every((part, i) => isSamePart(part, b.parts[i]!)))
  );
}

/** Gives a snippet these parts, by position. */
export function saveParts(
  em: EntityManager,
  snippet: Snippet,
  existing: readonly Part[],
  parts: readonly SnapshotPart[],
): void {
  parts.forEach(({ placement, rank, code, statement = '' }, position) => {
    const old = existing[position];
    const values = {
      placement,
      rank,
      code,
      statement,
      fieldNames: fieldNames({ parts: [{ placement, rank, code }] }),
    };
    if (old) Object.assign(old, values);
    else em.create(PartEntity, { snippet, position, ...values }, { persist: true });
  });
  for (const part of existing.slice(parts.length)) em.remove(part);
}

function isSamePart(a: SnapshotPart, b: SnapshotPart): boolean {
  return (
    placementKey(a.placement) === placementKey(b.placement) &&
    a.rank === b.rank &&
    a.code === b.code &&
    (a.statement ?? '') === (b.statement ?? '')
  );
}

/** Sets a snippet's state, and since when and by whom it is off. */
export function setState(snippet: Snippet, state: SnippetState, by: string): void {
  if (snippet.state !== state || snippet.stateAt == null) {
    snippet.stateAt = state === 'on' ? null : new Date();
    snippet.stateBy = state === 'on' ? null : by;
  }
  snippet.state = state;
}
