import type { Store } from '../storage/store.js';
import { lastEntries } from '../storage/trail.js';
import { findSite } from './site-lock.js';

/** So many entries are shown. */
const LENGTH = 200;

/** What was done at a site last, the newest first. @throws ServiceError 404 */
export async function listActivity(store: Store, key: string) {
  const site = await findSite(store, key);
  const entries = await lastEntries(store, site, LENGTH);
  return entries.map(({ id, action, message, by, at }) => ({
    id,
    action,
    message,
    by,
    at: at.toISOString(),
  }));
}
