import { SnippetEntity } from './entities/index.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** Sites, by id, whose draft has a snippet of this key. One query. */
export async function sitesWithSnippet(
  store: Store,
  sites: readonly number[],
  key: string,
): Promise<Set<number>> {
  const em = emOf(store);
  const found = await em.find(SnippetEntity, { site: { $in: [...sites] }, key }, { fields: ['site'] });
  return new Set(found.map(({ site }) => site.id));
}
