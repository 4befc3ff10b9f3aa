import { toPage } from '../storage/cursor.js';
import type { Store } from '../storage/store.js';
import { lastEntries } from '../storage/trail.js';
import { findSite } from './site-lock.js';

export interface NewestListing {
  readonly limit: number;
  /** The number of the last row of the page before. */
  readonly after?: readonly [number: number] | undefined;
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
