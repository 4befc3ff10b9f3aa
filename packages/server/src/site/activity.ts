import type { ActivityEntry } from '@pragmatica/contract';
import { mayAt, type Access } from '@pragmatica/core';
import { toPage } from '../storage/cursor.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { findEntries, removedSnippets, type ListedEntry } from '../storage/trail.js';
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
  const { page, next } = await pageOf(store, site, listing);
  return { items: page.map((entry) => activityResource(entry, mayAt(access, key, 'own'))), next };
}

/** What was done at all sites and to the installation, the newest first. For owners of the installation. */
export async function listTrail(store: Store, listing: ActivityListing) {
  const { page, next } = await pageOf(store, undefined, listing);
  const items = page.map((entry) => ({
    ...activityResource(entry, true),
    site: entry.site,
    siteName: entry.siteName,
  }));
  return { items, next };
}

async function pageOf(store: Store, site: Site | undefined, { limit, after, ...filter }: ActivityListing) {
  const found = await findEntries(store, { site, ...filter, before: after?.[0] }, limit + 1);
  return toPage(found, limit, ({ id }) => [id]);
}

/** An entry as the API shows it. @param isOwner - whether whoever asks sees from where it was asked */
export function activityResource(
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

/** Snippets that a draft had and has no more, the last that went first. @throws ServiceError 404 */
export async function listRemoved(store: Store, key: string, limit: number) {
  const site = await findSite(store, key);
  const found = await removedSnippets(store, site, limit);
  return found.map(({ at, ...rest }) => ({ ...rest, at: at.toISOString() }));
}
