import type { EntityManager } from '@mikro-orm/postgresql';
import { ServiceError } from '../errors.js';
import { loadSnippet, type DraftSnippet } from '../storage/draft.js';
import type { Site } from '../storage/entities/index.js';

/** A snippet of a draft. @throws ServiceError 404 */
export async function findSnippet(em: EntityManager, site: Site, key: string): Promise<DraftSnippet> {
  const found = await loadSnippet(em, site, key);
  if (!found) throw new ServiceError('no-such-snippet', { site: site.key, snippet: key });
  return found;
}
