import { ServiceError } from '../errors.js';
import type { Site } from '../storage/rows.js';
import { lockSite, siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';

/** @throws ServiceError 404 */
export async function findSite(store: Store, key: string): Promise<Site> {
  const site = await siteByKey(store, key);
  if (!site) throw new ServiceError('no-such-site', { site: key });
  return site;
}

/**
 * Runs a change of a site in one transaction, with the site's row locked: changes of one site happen one after the
 * other, so what a change reads is still true when it writes.
 */
export async function withSiteLock<T>(
  store: Store,
  key: string,
  change: (store: Store, site: Site) => Promise<T>,
): Promise<T> {
  return store.transactional(async (transaction) => {
    const site = await lockSite(transaction, key);
    if (!site) throw new ServiceError('no-such-site', { site: key });
    return change(transaction, site);
  });
}
