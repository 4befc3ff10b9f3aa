import type { EntityManager } from '@mikro-orm/postgresql';
import { SnippetEntity } from './entities/index.js';

/** Sites, by id, whose draft has a snippet of this key. One query. */
export async function sitesWithSnippet(
  em: EntityManager,
  sites: readonly number[],
  key: string,
): Promise<Set<number>> {
  const found = await em.find(SnippetEntity, { site: { $in: [...sites] }, key }, { fields: ['site'] });
  return new Set(found.map(({ site }) => site.id));
}
