import { toPage } from '../storage/cursor.js';
import type { Store } from '../storage/store.js';
import { lastEntries } from '../storage/trail.js';
import { findSite } from './site-lock.js';

/** Where a page of a list that begins with the newest ends: the number of its last row. */
export type NumberPosition = readonly [number: number];

export interface NewestListing {
  readonly limit: number;
  readonly after?: NumberPosition | undefined;
}

/** What was done at a site, the newest first. @throws ServiceError 404 */
export async function listActivity(store: Store, key: string, { limit, after }: NewestListing) {
  const site = await findSite(store, key);
  const { page, next } = toPage(await lastEntries(store, site, limit + 1, after?.[0]), limit, ({ id }) => [
    id,
  ]);
  const items = page.map(({ id, action, message, by, at }) => ({
    id,
    action,
    message,
    by,
    at: at.toISOString(),
  }));
  return { items, next };
}
