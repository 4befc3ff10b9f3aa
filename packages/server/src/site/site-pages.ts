import type { EntityManager } from '@mikro-orm/postgresql';
import type { Environment } from '@pragmatica/contract';
import { pageMatcher, pageRulesWords, withoutGroups, type PageRules } from '@pragmatica/core';
import type { SiteClient } from '../outgoing/site-client.js';
import { knownPages, type KnownPages } from '../pages/known-pages.js';
import { HostEntity } from '../storage/entities/index.js';
import { findSite } from './site-lock.js';

/** The pages of a site that are known, asked of it now. @throws ServiceError 404 */
export async function listPages(
  client: SiteClient,
  em: EntityManager,
  key: string,
  environment: Environment,
): Promise<KnownPages> {
  const site = await findSite(em, key);
  const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
  const host = hosts.find((entry) => entry.environment === environment) ?? hosts[0];
  return knownPages(host, client);
}

/** Which of them some page rules hold. @throws ServiceError 404 */
export async function previewPages(client: SiteClient, em: EntityManager, key: string, rules: PageRules) {
  const site = await findSite(em, key);
  const host = await em.findOne(HostEntity, { site }, { orderBy: { position: 'asc' } });
  const known = await knownPages(host ?? undefined, client);
  const matcher = pageMatcher(withoutGroups(rules, site.pageGroups));
  return {
    matched: known.paths.filter((path) => matcher.match(path).matches),
    known: known.paths.length,
    words: pageRulesWords(rules, site.pageGroups),
    source: known.message,
  };
}
