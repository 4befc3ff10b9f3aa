import { LockMode, type EntityManager } from '@mikro-orm/postgresql';
import { RELEASE_CHANNEL } from '@pragmatica/contract';
import { AuditEntity, SiteEntity, type Site } from '../storage/entities/index.js';
import { ServiceError } from '../errors.js';

/** @throws ServiceError 404 */
export async function findSite(em: EntityManager, key: string): Promise<Site> {
  const site = await em.findOne(SiteEntity, { key });
  if (!site) throw new ServiceError('no-such-site', { site: key });
  return site;
}

/**
 * Runs a change of a site in one transaction, with the site's row locked: changes of one site happen one after the
 * other, so what a change reads is still true when it writes.
 */
export async function withSiteLock<T>(
  em: EntityManager,
  key: string,
  change: (em: EntityManager, site: Site) => Promise<T>,
): Promise<T> {
  return em.transactional(async (transaction) => {
    const site = await transaction.findOne(SiteEntity, { key }, { lockMode: LockMode.PESSIMISTIC_WRITE });
    if (!site) throw new ServiceError('no-such-site', { site: key });
    return change(transaction, site);
  });
}

/** Locks several sites at once, in one order for all. Those that there are not are left out. @returns by key */
export async function lockSites(em: EntityManager, keys: readonly string[]): Promise<Map<string, Site>> {
  const sites = await em.find(
    SiteEntity,
    { key: { $in: [...new Set(keys)] } },
    { lockMode: LockMode.PESSIMISTIC_WRITE, orderBy: { id: 'asc' } },
  );
  return new Map(sites.map((site) => [site.key, site]));
}

/** Adds an audit entry to the unit of work. */
export function audit(
  em: EntityManager,
  site: Site | null,
  by: string,
  action: string,
  message: string,
): void {
  em.create(AuditEntity, { site, by, action, message, at: new Date() }, { persist: true });
}

/** Tells all gateways, once the transaction commits. */
export async function notifyGateways(em: EntityManager, site: Site): Promise<void> {
  await em.execute('select pg_notify(?, ?)', [RELEASE_CHANNEL, site.key]);
}
