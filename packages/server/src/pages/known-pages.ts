import { originsOf } from '@pragmatica/contract';
import { toPathname } from '@pragmatica/core';
import { reasonOf } from '../outgoing/reason.js';
import type { SiteClient } from '../outgoing/site-client.js';
import type { Host } from '../storage/rows.js';
import { readSitemap } from './sitemap.js';
import { PAGES_TEXTS } from '../texts/pages.js';
import { say } from '../texts/say.js';

export interface KnownPages {
  readonly paths: string[];
  readonly source: 'survey' | 'sitemap' | 'assumed';
  readonly message: string;
}

/** For a sitemap and those that it names together. */
const TIMEOUT_MS = 10_000;
const MAX_PAGES = 10_000;
/** The protocol's own limit is 50 MB for one. */
const MAX_BYTES = 20 * 1024 * 1024;
/** A sitemap index may name more sitemaps, but no index again (sitemaps.org protocol). */
const MAX_SITEMAPS = 50;
const MAX_REDIRECTS = 3;

/** The pages that a site's own sitemap lists, asked of its origin under the host's name. @param access - what lets us in */
export async function knownPages(
  host: Host | undefined,
  client: SiteClient,
  access: Readonly<Record<string, string>> = {},
): Promise<KnownPages> {
  if (!host) return assumed(PAGES_TEXTS.siteHasNo);
  try {
    const paths = await sitemapPaths(host, client, access);
    if (paths.length > 0) {
      const unique = [...new Set(paths)].slice(0, MAX_PAGES);
      return {
        paths: unique,
        source: 'sitemap',
        message: say(PAGES_TEXTS.countPagesFrom, { count: unique.length }),
      };
    }
    return assumed(PAGES_TEXTS.siteSList);
  } catch (error) {
    const why = reasonOf(error);
    return assumed(say(PAGES_TEXTS.siteSListPages, { why }));
  }
}

function assumed(message: string): KnownPages {
  return { paths: ['/'], source: 'assumed', message };
}

async function sitemapPaths(
  host: Host,
  client: SiteClient,
  access: Readonly<Record<string, string>>,
): Promise<string[]> {
  const signal = AbortSignal.timeout(TIMEOUT_MS);
  const base = originsOf(host.origin)[0]!;
  const ask = async (path: string, pages: number, sitemaps: number) => {
    const response = await client.get(base, path, {
      headers: { 'x-forwarded-host': host.host, ...access },
      signal,
      redirects: MAX_REDIRECTS,
      ownOrigins: [host.address ?? `http://${host.host}`, `https://${host.host}`, `http://${host.host}`],
    });
    if (!response.ok) {
      await response.body?.cancel();
      throw new Error(say(PAGES_TEXTS.siteAnsweredStatus, { status: response.status }));
    }
    return readSitemap(response, { pages, sitemaps, bytes: MAX_BYTES });
  };
  const first = await ask('/sitemap.xml', MAX_PAGES, MAX_SITEMAPS);
  const paths = [...first.pages];
  for (const address of first.sitemaps) {
    if (paths.length >= MAX_PAGES) break;
    paths.push(...(await ask(toPathname(address), MAX_PAGES - paths.length, 1)).pages);
  }
  return paths.map(toPathname);
}
