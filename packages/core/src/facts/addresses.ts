import { parse } from 'tldts';
import { HOLE } from './script/values.js';

/** The host of an address as written, in lower case; undefined for one of the site itself or an unknown one. */
export function hostOf(address: string): string | undefined {
  const found = /^(?:https?:|wss?:)?\/\/([^/?#\\]+)/i.exec(address.trim())?.[1];
  if (found === undefined || found.includes(HOLE)) return undefined;
  return found
    .replace(/^[^@]*@/, '')
    .replace(/:\d+$/, '')
    .toLowerCase();
}

/**
 * Scheme, host and port that an address leads to; undefined where that is not known before the script runs, or where it is no
 * page or file of a host.
 *
 * @param base - of the page it stands in
 */
export function wholeOrigin(address: string, base: string): string | undefined {
  const written = address.trim();
  const isOfHost = /^(?:https?:)?\/\//i.test(written);
  if (written === '' || written.startsWith(HOLE) || (isOfHost && hostOf(written) === undefined))
    return undefined;
  if (!URL.canParse(written, base)) return undefined;
  const { origin, protocol } = new URL(written, base);
  return protocol === 'http:' || protocol === 'https:' ? origin : undefined;
}

/** The registrable domain of an address's host (Public Suffix List); the host itself where there is none. */
export function domainOf(address: string): string | undefined {
  const host = hostOf(address);
  return host === undefined ? undefined : domainOfHost(host);
}

export function domainOfHost(host: string): string {
  // Names for local use have no public suffix: their last two labels stand for the domain.
  if (/\.(localhost|test|example|invalid)$/.test(host)) return host.split('.').slice(-2).join('.');
  return parse(host).domain ?? host;
}

/** The query of an address, name by name. */
export function queryOf(address: string): [string, string][] {
  const query = /\?([^#]*)/.exec(address)?.[1];
  const pairs: [string, string][] = [];
  new URLSearchParams(query ?? '').forEach((value, name) => pairs.push([name, value]));
  return pairs;
}

/** Names that only keep an old copy from being used. */
const CACHE_BUSTERS =
  /^(_|v|ver|version|rev|r|t|ts|time|timestamp|cb|cache|cachebuster|rnd|rand|random|nocache|bust|hash|h|build)$/i;

export function isCacheBuster(name: string): boolean {
  return CACHE_BUSTERS.test(name);
}

/** An address without what does not change what is fetched: protocol, port of its protocol, cache-busters, fragment. */
export function normalAddress(address: string): string {
  const trimmed = address.trim().split('#', 1)[0]!;
  const [path, query] = trimmed.split(/\?([^]*)/);
  const kept = queryOf(`?${query ?? ''}`)
    .filter(([name]) => !isCacheBuster(name))
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  const rest = kept.map(([name, value]) => `${name}=${value}`).join('&');
  const host = hostOf(trimmed);
  const plain =
    host === undefined
      ? path!
      : path!.replace(
          /^(?:https?:)?\/\/[^/]+/i,
          (start) => `//${start.replace(/^(?:https?:)?\/\//i, '').toLowerCase()}`,
        );
  return rest === '' ? plain : `${plain}?${rest}`;
}
