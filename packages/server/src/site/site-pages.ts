import type { Environment } from '@pragmatica/contract';
import { pageMatcher, pageRulesWords, withoutGroups, type PageRules } from '@pragmatica/core';
import type { SiteClient } from '../outgoing/site-client.js';
import { knownPages, type KnownPages } from '../pages/known-pages.js';
import { hostsOf } from '../storage/hosts.js';
import type { Host, Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { readPaths } from '../storage/survey-pages.js';
import { lastDoneSurvey } from '../storage/surveys.js';
import { PAGES_TEXTS } from '../texts/pages.js';
import { say } from '../texts/say.js';
import { findSite } from './site-lock.js';

const MAX_PAGES = 10_000;

/** The pages of a host that are known: those that the newest survey read, or else those that its sitemap lists. */
export async function pagesOfHost(
  client: SiteClient,
  store: Store,
  site: Site,
  host: Host | undefined,
): Promise<KnownPages> {
  const survey =
    host && (await lastDoneSurvey(store, site, { environment: host.environment, host: host.host }));
  const paths = survey ? await readPaths(store, survey.id, MAX_PAGES) : [];
  if (!survey || paths.length === 0) {
    const access = host ? await client.accessIfLetIn(store, site, host) : {};
    return knownPages(host, client, access);
  }
  const { number } = survey;
  const message = say(PAGES_TEXTS.countPagesSurvey, { count: paths.length, number });
  return { paths, source: 'survey', message };
}

/** The pages of a site that are known. @throws ServiceError 404 */
export async function listPages(
  client: SiteClient,
  store: Store,
  key: string,
  environment: Environment,
): Promise<KnownPages> {
  const site = await findSite(store, key);
  const hosts = await hostsOf(store, site);
  const host = hosts.find((entry) => entry.environment === environment) ?? hosts[0];
  return pagesOfHost(client, store, site, host);
}

/** Which of them some page rules hold. @throws ServiceError 404 */
export async function previewPages(client: SiteClient, store: Store, key: string, rules: PageRules) {
  const site = await findSite(store, key);
  const [host] = await hostsOf(store, site);
  const known = await pagesOfHost(client, store, site, host);
  const matcher = pageMatcher(withoutGroups(rules, site.pageGroups));
  return {
    matched: known.paths.filter((path) => matcher.match(path).matches),
    known: known.paths.length,
    words: pageRulesWords(rules, site.pageGroups),
    source: known.message,
  };
}
