import type { EntityManager } from '@mikro-orm/postgresql';
import {
  fieldNames,
  normalizeLimits,
  placementKey,
  type Snapshot,
  type SnapshotPart,
  type SnapshotSnippet,
  type SnippetState,
} from '@pragmatica/core';
import { groupBy } from '../group-by.js';
import { PartEntity, SnippetEntity, type Part, type Site, type Snippet } from './entities/index.js';

export interface DraftSnippet {
  readonly snippet: Snippet;
  readonly parts: readonly Part[];
}

/** A site's snippets with their parts, in the order in which they were added: two queries, however many there are. */
export async function loadDraft(em: EntityManager, site: Site): Promise<DraftSnippet[]> {
  const snippets = await em.find(SnippetEntity, { site }, { orderBy: { id: 'asc' } });
  const parts = await em.find(PartEntity, { snippet: { site } }, { orderBy: { position: 'asc' } });
  const bySnippet = groupBy(parts, (part) => part.snippet.id);
  return snippets.map((snippet) => ({ snippet, parts: bySnippet.get(snippet.id) ?? [] }));
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

/** Snippets of a draft by their keys; those that there are not are left out. Two queries. */
export async function loadSnippetsByKey(
  em: EntityManager,
  site: Site,
  keys: readonly string[],
): Promise<DraftSnippet[]> {
  if (keys.length === 0) return [];
  const snippets = await em.find(SnippetEntity, { site, key: { $in: [...keys] } }, { fields: ['id'] });
  return loadSnippets(
    em,
    snippets.map(({ id }) => id),
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

/** The draft as the plain data that core works on. */
export function toSnapshot(site: Site, draft: readonly DraftSnippet[]): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: snapshotSite(site),
    snippets: draft.map(toSnapshotSnippet),
  };
}

/** What a snapshot says of its site. What is not defined is left out, so that older digests stay as they were. */
export function snapshotSite({ key, name, timeZone, pageGroups, consent, fields }: Site): Snapshot['site'] {
  return {
    key,
    name,
    timeZone,
    ...(pageGroups.length > 0 ? { pageGroups } : {}),
    ...(consent ? { consent } : {}),
    ...(fields.length > 0 ? { fields } : {}),
  };
}

function toSnapshotSnippet({ snippet, parts }: DraftSnippet): SnapshotSnippet {
  const { key, name, purpose, provider, note, state, include, exclude, needs } = snippet;
  const { stateAt, stateBy } = snippet;
  const limits = normalizeLimits(snippet.limits);
  return {
    key,
    name,
    purpose,
    provider,
    note,
    state,
    pages: { include, exclude },
    ...(limits ? { limits } : {}),
    ...(state !== 'on' && stateAt && stateBy != null
      ? { stateSince: { at: stateAt.toISOString(), by: stateBy } }
      : {}),
    // Left out where there is nothing, so that a release without them has the digest that it always had.
    ...(needs.length > 0 ? { needs } : {}),
    ...(snippet.recipe ? { recipe: snippet.recipe } : {}),
    parts: parts.map(({ placement, rank, code, statement }) => ({
      placement,
      rank,
      code,
      ...(statement === '' ? {} : { statement }),
    })),
  };
}

/**
 * Saves the states and parts of a set that core has worked out from a draft: what is as it was is not touched.
 *
 * @param by - the login of whoever changes it
 */
export async function saveDraft(
  em: EntityManager,
  draft: readonly DraftSnippet[],
  target: Snapshot,
  by: string,
): Promise<void> {
  const targets = new Map(target.snippets.map((snippet) => [snippet.key, snippet]));
  for (const { snippet, parts } of draft) {
    const now = targets.get(snippet.key);
    if (!now) continue;
    const isSame =
      now.parts.length === parts.length && now.parts.every((part, i) => isSamePart(part, parts[i]!));
    if (isSame && now.state === snippet.state) continue;
    Object.assign(snippet, { updatedBy: by, updatedAt: new Date() });
    if (now.state !== snippet.state) setState(snippet, now.state, by);
    saveParts(em, snippet, parts, now.parts);
  }
  await em.flush();
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

function isSamePart(a: SnapshotPart, b: Part): boolean {
  return (
    placementKey(a.placement) === placementKey(b.placement) &&
    a.rank === b.rank &&
    a.code === b.code &&
    (a.statement ?? '') === b.statement
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
