import type { Store } from '../storage/store.js';
import { ServiceError } from '../errors.js';
import { loadSnippet, type DraftSnippet } from '../storage/draft.js';
import type { Site } from '../storage/rows.js';

/** A snippet of a draft. @throws ServiceError 404 */
export async function findSnippet(store: Store, site: Site, key: string): Promise<DraftSnippet> {
  const found = await loadSnippet(store, site, key);
  if (!found) throw new ServiceError('no-such-snippet', { site: site.key, snippet: key });
  return found;
}
