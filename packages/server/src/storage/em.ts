import { EntityManager } from '@mikro-orm/postgresql';
import type { Store } from './store.js';

/** The entity manager behind a store: only this folder knows that there is one. */
export function emOf(store: Store): EntityManager {
  if (!(store instanceof EntityManager)) throw new TypeError('This store was not opened by storage.');
  return store as EntityManager;
}
