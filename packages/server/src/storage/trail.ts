import { RELEASE_CHANNEL } from '@pragmatica/contract';
import { emOf } from './em.js';
import { AuditEntity } from './entities/index.js';
import type { AuditEntry, Site } from './rows.js';
import type { Store } from './store.js';

/** Adds an entry to the trail: who did what, to which site. */
export function audit(store: Store, site: Site | null, by: string, action: string, message: string): void {
  emOf(store).create(AuditEntity, { site, by, action, message, at: new Date() }, { persist: true });
}

/** A site's last entries, the newest first. @param before - only those with a lower id */
export async function lastEntries(
  store: Store,
  site: Site,
  limit: number,
  before?: number,
): Promise<readonly AuditEntry[]> {
  const where = before === undefined ? { site } : { site, id: { $lt: before } };
  return emOf(store).find(AuditEntity, where, { orderBy: { id: 'desc' }, limit });
}

/** Tells all gateways that a site serves something else, once the transaction commits. */
export async function notifyGateways(store: Store, site: Pick<Site, 'key'>): Promise<void> {
  await emOf(store).execute('select pg_notify(?, ?)', [RELEASE_CHANNEL, site.key]);
}
