import type { ApiClient } from './client.js';
import type { EndpointCall } from './endpoint.js';
import type { Endpoints } from './endpoints/index.js';
import type {
  FieldRow,
  RecipeSummary,
  ReleaseSummary,
  SiteQuery,
  SiteSummaryResource,
} from './schemas/index.js';

/** The most that one call gives. */
const LIMIT = 200;

interface Page<T> {
  readonly items: readonly T[];
  readonly next: string | null;
}

/** Asks for page after page until there is none. */
async function allPages<T>(ask: (after: string | undefined) => Promise<Page<T>>): Promise<T[]> {
  const all: T[] = [];
  for (let after: string | undefined; ;) {
    const { items, next } = await ask(after);
    all.push(...items);
    if (next === null) return all;
    after = next;
  }
}

/** All sites, or those that fit. */
export async function listAllSites(client: ApiClient, query: SiteQuery = {}): Promise<SiteSummaryResource[]> {
  return allPages(
    async (after) => (await client.call('listSites', { query: { ...query, after, limit: LIMIT } })).data,
  );
}

/** All recipes, or those that have some words. */
export async function listAllRecipes(client: ApiClient, q = ''): Promise<RecipeSummary[]> {
  return allPages(
    async (after) => (await client.call('listRecipes', { query: { q, after, limit: LIMIT } })).data,
  );
}

/** All releases of a site, the newest first. */
export async function listAllReleases(client: ApiClient, site: string): Promise<ReleaseSummary[]> {
  return allPages(
    async (after) =>
      (await client.call('listReleases', { params: { site }, query: { after, limit: LIMIT } })).data,
  );
}

/** All fields that fit. */
export async function listAllFields(
  client: ApiClient,
  query: EndpointCall<Endpoints['listFields']>['query'],
): Promise<FieldRow[]> {
  return allPages(
    async (after) => (await client.call('listFields', { query: { ...query, after, limit: LIMIT } })).data,
  );
}
