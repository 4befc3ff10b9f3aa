import type { Store } from '../storage/store.js';
import type { Environment } from '@pragmatica/contract';
import { pageMatcher, pageRulesWords, withoutGroups, type PageRules } from '@pragmatica/core';
import type { SiteClient } from '../outgoing/site-client.js';
import { knownPages, type KnownPages } from '../pages/known-pages.js';
import { hostsOf } from '../storage/hosts.js';
import { findSite } from './site-lock.js';

/** The pages of a site that are known, asked of it now. @throws ServiceError 404 */
export async function listPages(
  client: SiteClient,
  store: Store,
  key: string,
  environment: Environment,
): Promise<KnownPages> {
  const site = await findSite(store, key);
  const hosts = await hostsOf(store, site);
  const host = hosts.find((entry) => entry.environment === environment) ?? hosts[0];
  return knownPages(host, client);
}

/** Which of them some page rules hold. @throws ServiceError 404 */
export async function previewPages(client: SiteClient, store: Store, key: string, rules: PageRules) {
  const site = await findSite(store, key);
  const [host] = await hostsOf(store, site);
  const known = await knownPages(host, client);
  const matcher = pageMatcher(withoutGroups(rules, site.pageGroups));
  return {
    matched: known.paths.filter((path) => matcher.match(path).matches),
    known: known.paths.length,
    words: pageRulesWords(rules, site.pageGroups),
    source: known.message,
  };
}
