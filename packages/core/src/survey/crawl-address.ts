/** Query names that only say where a visitor came from; the page is the same without them. */
const CAMPAIGN = /^(?:utm_\w+|[a-z]{1,4}clid|ref|referrer|source|campaign)$/i;
/** A file that is no page, by what its name ends in; the server's word counts where it says otherwise. */
const NO_PAGE =
  /\.(?:avif|bmp|css|csv|docx?|eot|gif|gz|ico|ics|jpe?g|js|json|map|mjs|mov|mp[34]|og[gv]|pdf|png|pptx?|rar|rss|svg|tar|tiff?|ttf|txt|wav|webm|webp|woff2?|xlsx?|xml|zip)$/i;
/** Longer addresses are made by machines for machines. */
const MAX_LENGTH = 1_000;
const MAX_SEGMENTS = 24;
/** `/a/b/a/b/a/b`: a relative link that leads deeper into itself each time. */
const MAX_REPEATS = 3;

/**
 * The path, with its search, by which a page of a site is known; undefined for what is elsewhere or no page.
 *
 * @param address - a whole address, as a link leads to it
 * @param isOwnHost - by hostname, in lower case
 */
export function pageOf(address: string, isOwnHost: (host: string) => boolean): string | undefined {
  if (address.length > MAX_LENGTH || !URL.canParse(address)) return undefined;
  const url = new URL(address);
  const isWeb = url.protocol === 'http:' || url.protocol === 'https:';
  if (!isWeb || !isOwnHost(url.hostname) || NO_PAGE.test(url.pathname)) return undefined;
  const segments = url.pathname.split('/').filter(Boolean);
  if (segments.length > MAX_SEGMENTS || repeats(segments) > MAX_REPEATS) return undefined;
  return url.pathname + stableSearch(url.searchParams);
}

function repeats(segments: readonly string[]): number {
  const counts = new Map<string, number>();
  for (const segment of segments) counts.set(segment, (counts.get(segment) ?? 0) + 1);
  return Math.max(0, ...counts.values());
}

/** The search in one order, so that a page with its filters the other way round is no other page. */
function stableSearch(search: URLSearchParams): string {
  const kept = [...search].filter(([name]) => !CAMPAIGN.test(name));
  if (kept.length === 0) return '';
  kept.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return `?${new URLSearchParams(kept).toString()}`;
}

/** So many pages of one shape are visited, by what varies in it. */
export interface ShapeLimits {
  /** Pages that differ in what their search says: filters, calendars, sessions. */
  readonly search: number;
  /** Pages with two segments or more that are nothing but numbers: calendars, archives by day. */
  readonly numbers: number;
}

export const SHAPE_LIMITS: ShapeLimits = { search: 25, numbers: 500 };

/** What an address is one of many of, and how many of these are visited; undefined for one of its own. */
export function addressShape(
  path: string,
  limits: ShapeLimits = SHAPE_LIMITS,
): { readonly shape: string; readonly limit: number } | undefined {
  const at = path.indexOf('?');
  const pathname = at < 0 ? path : path.slice(0, at);
  const shaped = pathname.replace(/\d+/g, '#');
  if (at >= 0) {
    const names = [...new Set(new URLSearchParams(path.slice(at + 1)).keys())];
    return { shape: `${shaped}?${names.join('&')}`, limit: limits.search };
  }
  const numbers = shaped.split('/').filter((segment) => segment === '#').length;
  return numbers >= 2 ? { shape: shaped, limit: limits.numbers } : undefined;
}

/** The part of the site that a page belongs to, by the first folder of its path: `/news`; files at the top are of `/`. */
export function sectionOf(path: string): string {
  const [, first = '', ...rest] = path.split('?', 1)[0]!.split('/');
  return rest.length === 0 && /\.[a-z]{2,5}$/i.test(first) ? '/' : `/${first}`;
}
