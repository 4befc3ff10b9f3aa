import {
  listAllSites,
  type EndpointResult,
  type Endpoints,
  type SiteQuery,
  type SiteSummaryResource,
} from '@pragmatica/contract';
import {
  infiniteQueryOptions,
  queryOptions,
  type InfiniteData,
  type QueryClient,
} from '@tanstack/react-query';
import { api } from './client';

export type SiteFilter = NonNullable<SiteQuery['filter']>;
type SitePage = EndpointResult<Endpoints['listSites']>;
type SitePages = InfiniteData<SitePage, string | undefined>;

/** So many sites come at once. */
const LIMIT = 50;

/** Sites page by page, those that need somebody most first. */
export const siteListQuery = (q: string, filter: SiteFilter) =>
  infiniteQueryOptions({
    queryKey: ['sites', 'list', q, filter],
    queryFn: async ({ pageParam }) =>
      (await api.call('listSites', { query: { q, filter, after: pageParam, limit: LIMIT } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

/** All sites, to choose from. */
export const allSitesQuery = queryOptions({
  queryKey: ['sites', 'all'],
  queryFn: async () => listAllSites(api),
});

/** Sites with changes that visitors do not get yet. */
export const unpublishedSitesQuery = queryOptions({
  queryKey: ['sites', 'unpublished'],
  queryFn: async () => listAllSites(api, { filter: 'unpublished' }),
});

/** Asks again for the sites that have changed since they were listed, and puts them where the others stand. */
export async function refreshSites(client: QueryClient): Promise<void> {
  const lists = client.getQueriesData<SitePages>({ queryKey: ['sites', 'list'], type: 'active' });
  await Promise.all([
    ...lists.map(async ([queryKey, known]) => {
      const first = known?.pages[0];
      if (!first) return client.invalidateQueries({ queryKey });
      const [, , q] = queryKey as [string, string, string];
      const query = { q, since: first.since, limit: 200 };
      const { data: news } = await api.call('listSites', { query });
      if (news.next !== null) return client.invalidateQueries({ queryKey });
      client.setQueryData<SitePages>(queryKey, withNews(known, news));
    }),
    client.invalidateQueries({
      queryKey: ['sites'],
      predicate: ({ queryKey }) => queryKey[1] !== 'list',
    }),
    // What nobody looks at is asked for when somebody does.
    client.invalidateQueries({ queryKey: ['sites', 'list'], type: 'inactive' }),
  ]);
}

/** Pages with what has changed in them; every site stays where it stands, so that nothing moves under the hand. */
export function withNews(known: SitePages, news: SitePage): SitePages {
  const changed = new Map(news.items.map((site): [string, SiteSummaryResource] => [site.key, site]));
  const { counts, since } = news;
  const pages = known.pages.map((page) => ({
    ...page,
    counts,
    since,
    items: page.items.map((site) => changed.get(site.key) ?? site),
  }));
  return { ...known, pages };
}
