import type { EntityManager } from '@mikro-orm/postgresql';
import { AuditEntity } from '../storage/entities/index.js';
import { findSite } from './site-lock.js';

/** So many entries are shown. */
const LENGTH = 200;

/** What was done at a site last, the newest first. @throws ServiceError 404 */
export async function listActivity(em: EntityManager, key: string) {
  const site = await findSite(em, key);
  const entries = await em.find(AuditEntity, { site }, { orderBy: { id: 'desc' }, limit: LENGTH });
  return entries.map(({ id, action, message, by, at }) => ({
    id,
    action,
    message,
    by,
    at: at.toISOString(),
  }));
}
