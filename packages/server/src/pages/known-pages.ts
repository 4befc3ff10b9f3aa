import { XMLParser } from 'fast-xml-parser';
import { originsOf } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { toPathname } from '@pragmatica/core';
import type { Host } from '../storage/entities/index.js';

export interface KnownPages {
  readonly paths: string[];
  readonly source: 'sitemap' | 'assumed';
  readonly message: string;
}

const TIMEOUT_MS = 5_000;
const MAX_PAGES = 10_000;
const MAX_SITEMAP_BYTES = 20 * 1024 * 1024;
/** A sitemap index may name more sitemaps, but no index again (sitemaps.org protocol). */
const MAX_SITEMAPS = 50;

const parser = new XMLParser({
  ignoreAttributes: true,
  parseTagValue: false,
  isArray: (name) => name === 'url' || name === 'sitemap',
});

interface Sitemap {
  readonly urlset?: { readonly url?: readonly { readonly loc?: string }[] };
  readonly sitemapindex?: { readonly sitemap?: readonly { readonly loc?: string }[] };
}

/** The pages that a site's own sitemap lists, asked of its origin under the host's name. */
export async function knownPages(host: Host | undefined): Promise<KnownPages> {
  if (!host) return assumed('The site has no host yet, so only its front page is assumed.');
  try {
    const paths = await readSitemap(host, '/sitemap.xml', true);
    if (paths.length > 0) {
      const unique = [...new Set(paths)].slice(0, MAX_PAGES);
      return {
        paths: unique,
        source: 'sitemap',
        message: `${unique.length} pages from the site’s own list (/sitemap.xml).`,
      };
    }
    return assumed('The site’s list of pages (/sitemap.xml) is empty, so only its front page is assumed.');
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    return assumed(
      `The site’s list of pages (/sitemap.xml) could not be read: ${why}. Only the front page is assumed.`,
    );
  }
}

function assumed(message: string): KnownPages {
  return { paths: ['/'], source: 'assumed', message };
}

async function readSitemap(host: Host, path: string, mayBeIndex: boolean): Promise<string[]> {
  const response = await localhostFetch(new URL(path, originsOf(host.origin)[0]).href, {
    headers: { 'x-forwarded-host': host.host },
    signal: AbortSignal.timeout(TIMEOUT_MS),
  });
  if (!response.ok) throw new Error(`the site answered ${response.status}`);
  const text = await response.text();
  if (text.length > MAX_SITEMAP_BYTES) throw new Error('it is too large');
  const sitemap = parser.parse(text) as Sitemap;
  const nested = mayBeIndex ? (sitemap.sitemapindex?.sitemap ?? []).slice(0, MAX_SITEMAPS) : [];
  const own = (sitemap.urlset?.url ?? []).flatMap(({ loc }) =>
    loc === undefined ? [] : [toPathname(loc.trim())],
  );
  for (const { loc } of nested)
    if (loc !== undefined) own.push(...(await readSitemap(host, toPathname(loc.trim()), false)));
  return own;
}
