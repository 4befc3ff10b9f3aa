import { pageOf } from '@pragmatica/core';
import type { SiteClient } from '../outgoing/site-client.js';
import { readSitemap } from '../pages/sitemap.js';
import type { SurveyBase } from './survey-base.js';

const TIMEOUT_MS = 20_000;
/** The protocol's own limits: 50,000 addresses and 50 MB for one sitemap. */
const MAX_ADDRESSES = 50_000;
const MAX_BYTES = 50 * 1024 * 1024;
const MAX_SITEMAPS = 200;
const MAX_REDIRECTS = 3;

/**
 * Pages that the site's sitemaps list: those that robots.txt names, or else `/sitemap.xml`, and the sitemaps that
 * these name in turn. One that cannot be read is passed over: the walk finds by links what it would have named.
 */
export async function* sitemapPages(
  client: SiteClient,
  base: SurveyBase,
  named: readonly string[],
  most: number,
  signal: AbortSignal,
): AsyncGenerator<readonly string[]> {
  const waiting = named.length > 0 ? [...named] : ['/sitemap.xml'];
  const asked = new Set<string>();
  let found = 0;
  while (waiting.length > 0 && asked.size < MAX_SITEMAPS && found < most && !signal.aborted) {
    const path = ownPath(waiting.shift()!, base);
    if (path === undefined || asked.has(path)) continue;
    asked.add(path);
    const sitemap = await ask(client, base, path, Math.min(MAX_ADDRESSES, most - found), signal);
    waiting.push(...sitemap.sitemaps);
    const paths = sitemap.pages.flatMap((address) => pageOf(address, base.isOwnHost) ?? []);
    found += paths.length;
    yield [...new Set(paths)];
  }
}

/** Sitemaps of other sites are none of ours. */
function ownPath(address: string, base: SurveyBase): string | undefined {
  if (!URL.canParse(address, base.address)) return undefined;
  const url = new URL(address, base.address);
  return base.isOwnHost(url.hostname) ? url.pathname + url.search : undefined;
}

async function ask(
  client: SiteClient,
  base: SurveyBase,
  path: string,
  pages: number,
  signal: AbortSignal,
): Promise<{ readonly pages: readonly string[]; readonly sitemaps: readonly string[] }> {
  try {
    const response = await client.get(base.address, path, {
      headers: base.headers,
      signal: AbortSignal.any([signal, AbortSignal.timeout(TIMEOUT_MS)]),
      redirects: MAX_REDIRECTS,
    });
    if (response.ok) return await readSitemap(response, { pages, sitemaps: MAX_SITEMAPS, bytes: MAX_BYTES });
    await response.body?.cancel();
  } catch (error) {
    if (signal.aborted) throw error;
  }
  return { pages: [], sitemaps: [] };
}
