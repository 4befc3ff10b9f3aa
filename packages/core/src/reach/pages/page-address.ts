/** The address of a page load, as the URL Standard writes it. */
export interface PageAddress {
  /** Lower case, without port; empty where it does not matter. */
  readonly host: string;
  readonly pathname: string;
  /** Without the question mark. */
  readonly search: string;
}

/** Signs that the URL Standard leaves alone in a path; with others, or dots, it is asked. */
const PLAIN = /^\/(?:[\w\-~!$&'()*+,;=:@%]|\/(?!\.))*(?:\.[\w\-~]+)?$/;

/** @param target - a path with or without search, or a whole URL */
export function pageAddress(target: string, host = ''): PageAddress {
  const at = target.search(/[?#]/);
  const path = at < 0 ? target : target.slice(0, at);
  if (PLAIN.test(path) && !path.includes('%2') && (at < 0 || target.at(at) === '#'))
    return { host, pathname: path, search: '' };
  try {
    const url = new URL(
      target.startsWith('/') ? `http://page.invalid${target}` : target,
      'http://page.invalid',
    );
    const own = target.startsWith('/') || url.hostname === 'page.invalid' ? host : url.hostname;
    return { host: own, pathname: url.pathname, search: url.search.slice(1) };
  } catch {
    return { host, pathname: '/', search: '' };
  }
}

/** The path as the URL Standard writes it: dots resolved, odd characters percent-encoded, no query. */
export function toPathname(path: string): string {
  return pageAddress(path).pathname;
}

/** The text that page automata read, `host /path?search`; what stands between its pieces is in none before it. */
export function pageText({ host, pathname, search }: PageAddress): string {
  return `${host} ${pathname}?${search}`;
}

/** An address as people read it: "/fares", "/fares?day=2", with its host where that is given. */
export function addressWords({ host, pathname, search }: PageAddress, withHost = false): string {
  return `${withHost ? host : ''}${pathname}${search === '' ? '' : `?${search}`}`;
}
