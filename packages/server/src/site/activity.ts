import type { ActivityDetail, ActivityEntry } from '@pragmatica/contract';
import {
  changeRows,
  mayAt,
  type Access,
  type DraftChange,
  type SnapshotSnippet,
  type TrailChange,
  type Values,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { toPage } from '../storage/cursor.js';
import { snapshotSite } from '../storage/read-draft.js';
import type { Site } from '../storage/rows.js';
import type { SomeSites } from '../storage/search.js';
import type { Store } from '../storage/store.js';
import { snippetNames } from '../storage/draft.js';
import { findEntries, findEntry, removedSnippets, type ListedEntry } from '../storage/trail.js';
import { say } from '../texts/say.js';
import { TRAIL_TEXTS } from '../texts/trail.js';
import { findSite } from './site-lock.js';

export interface NewestListing {
  readonly limit: number;
  /** The number of the last row of the page before. */
  readonly after?: readonly [number: number] | undefined;
}

/** Which entries are wanted, and the place in the list. */
export interface ActivityListing extends NewestListing {
  readonly words?: string | undefined;
  readonly by?: string | undefined;
  /** Key of a snippet that was changed. */
  readonly snippet?: string | undefined;
}

/** What was done at a site, the newest first. @throws ServiceError 404 */
export async function listActivity(store: Store, key: string, listing: ActivityListing, access: Access) {
  const site = await findSite(store, key);
  const { page, next } = await pageOf(store, [site.key], listing);
  return { items: page.map((entry) => toResource(entry, mayAt(access, key, 'own'))), next };
}

/** What was done at all sites and to the installation, the newest first. For owners of the installation. */
export async function listTrail(store: Store, listing: ActivityListing) {
  const { page, next } = await pageOf(store, 'all', listing);
  const items = page.map((entry) => ({
    ...toResource(entry, true),
    site: entry.site,
    siteName: entry.siteName,
  }));
  return { items, next };
}

async function pageOf(store: Store, sites: SomeSites, { limit, after, ...filter }: ActivityListing) {
  const found = await findEntries(store, { sites, ...filter, before: after?.[0] }, limit + 1);
  return toPage(found, limit, ({ id }) => [id]);
}

/** @param isOwner - whether whoever asks sees from where it was asked */
function toResource(
  { id, action, message, by, at, token, address, changedDraft }: ListedEntry,
  isOwner: boolean,
): ActivityEntry {
  return {
    ...{ id, action, message, by, token },
    address: isOwner ? address : null,
    at: at.toISOString(),
    canUndo: changedDraft,
  };
}

/** What one change did, before and after. @throws ServiceError 404 */
export async function describeActivity(
  store: Store,
  key: string,
  id: number,
  access: Access,
): Promise<ActivityDetail> {
  const site = await findSite(store, key);
  const { entry, changes } = await findActivity(store, site, id);
  const snippets = changes.filter(({ kind }) => kind === 'snippet').map(({ key: one }) => one);
  const names = await snippetNames(store, site, snippets);
  return {
    ...toResource(entry, mayAt(access, key, 'own')),
    changes: changes.map((change) => toChange(change, site, names)),
  };
}

/** @throws ServiceError 404 */
export async function findActivity(store: Store, site: Site, id: number) {
  const found = await findEntry(store, site, id);
  if (!found) throw new ServiceError('no-such-activity', { site: site.key, entry: id });
  return found;
}

/** Changes of the draft among those of an entry. */
export function draftChangesOf(changes: readonly TrailChange[]): DraftChange[] {
  return changes.filter(({ kind }) => kind === 'snippet' || kind === 'site') as DraftChange[];
}

function toChange(
  change: TrailChange,
  site: Site,
  names: ReadonlyMap<string, string>,
): ActivityDetail['changes'][number] {
  const { kind, key, before, after } = change;
  const isDraft = kind === 'snippet' || kind === 'site';
  return {
    ...{ kind, key },
    name: nameOf(change, names),
    was: before === null ? 'added' : after === null ? 'removed' : 'changed',
    rows: isDraft ? changeRows(change as DraftChange, snapshotSite(site)) : plainRows(change),
    code: kind === 'snippet' ? codeOf(key, before as Values | null, after as Values | null) : [],
  };
}

/** @param names - of the draft’s snippets as they are now */
function nameOf({ kind, key, before, after }: TrailChange, names: ReadonlyMap<string, string>): string {
  if (kind !== 'snippet') return say(TRAIL_TEXTS.kinds[kind as keyof typeof TRAIL_TEXTS.kinds], { key });
  const named = (after ?? before) as { readonly name?: unknown };
  return typeof named.name === 'string' ? named.name : (names.get(key) ?? key);
}

/** Of what is no part of a draft: each value by its name. */
function plainRows({ before, after }: TrailChange): { what: string; before: string; after: string }[] {
  const [was, is] = [(before ?? {}) as Values, (after ?? {}) as Values];
  const text = (value: unknown): string =>
    value === undefined || value === null ? '' : typeof value === 'string' ? value : JSON.stringify(value);
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((name) => text(was[name]) !== text(is[name]))
    .map((name) => ({
      what: TRAIL_TEXTS.values[name as keyof typeof TRAIL_TEXTS.values],
      before: text(was[name]),
      after: text(is[name]),
    }));
}

/** Code that is another, part by part. */
function codeOf(
  key: string,
  before: Values | null,
  after: Values | null,
): { part: string; before: string; after: string }[] {
  const [was, is] = [codeByPart(before), codeByPart(after)];
  return [...new Set([...was.keys(), ...is.keys()])]
    .filter((number) => was.get(number) !== is.get(number))
    .map((number) => ({
      part: `${key}/${number}`,
      before: was.get(number) ?? '',
      after: is.get(number) ?? '',
    }));
}

function codeByPart(values: Values | null): Map<string, string> {
  if (!values) return new Map();
  const parts = values['parts'] as SnapshotSnippet['parts'] | undefined;
  if (parts) return new Map(parts.map(({ code }, index) => [String(index + 1), code]));
  return new Map(
    Object.entries(values).flatMap(([path, value]): [string, string][] => {
      const number = /^parts\/(\d{1,9})\/code$/.exec(path)?.[1];
      return number === undefined ? [] : [[number, String(value)]];
    }),
  );
}

/** Snippets that a draft had and has no more, the last that went first. @throws ServiceError 404 */
export async function listRemoved(store: Store, key: string, limit: number) {
  const site = await findSite(store, key);
  const found = await removedSnippets(store, site, limit);
  return found.map(({ at, ...rest }) => ({ ...rest, at: at.toISOString() }));
}
