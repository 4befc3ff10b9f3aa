import type { Store } from '../storage/store.js';
import type { SiteResult } from '@pragmatica/contract';
import { mayAt } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { Site } from '../storage/rows.js';
import { assertMay } from './assert-may.js';
import { withSiteLock } from './site-lock.js';
import type { ActingWithin } from './use-case.js';

/**
 * A change of one site’s draft among several: all of it or nothing, whatever becomes of the others. It takes the right to
 * edit there.
 *
 * @param change - says in words what it did
 */
export async function changeOneOf(
  { store, access }: Pick<ActingWithin, 'store' | 'access'>,
  key: string,
  change: (store: Store, site: Site) => Promise<string>,
): Promise<SiteResult> {
  try {
    if (!mayAt(access, key, 'view')) throw new ServiceError('no-such-site', { site: key });
    const message = await withSiteLock(store.fork(), key, (transaction, site) => {
      assertMay(access, site, 'edit');
      return change(transaction, site);
    });
    return { site: key, isDone: true, message };
  } catch (error) {
    if (!(error instanceof ServiceError)) throw error;
    return { site: key, isDone: false, message: error.message };
  }
}
