import type { Store } from '../storage/store.js';
import type { SiteResult } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import type { Site } from '../storage/rows.js';
import { withSiteLock } from './site-lock.js';

/**
 * A change of one site among several: all of it or nothing, whatever becomes of the others.
 *
 * @param change - says in words what it did
 */
export async function changeOneOf(
  store: Store,
  key: string,
  change: (store: Store, site: Site) => Promise<string>,
): Promise<SiteResult> {
  try {
    return { site: key, isDone: true, message: await withSiteLock(store.fork(), key, change) };
  } catch (error) {
    if (!(error instanceof ServiceError)) throw error;
    return { site: key, isDone: false, message: error.message };
  }
}
