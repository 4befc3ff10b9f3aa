import type { SiteResponse } from './site-request.js';

/** Where an answer sends a browser on; undefined for one that is no redirect, or leads nowhere. */
export function redirectTarget({ status, headers }: SiteResponse, url: URL): URL | undefined {
  const location = headers.get('location');
  if (status < 300 || status >= 400 || location === null || !URL.canParse(location, url.href))
    return undefined;
  return new URL(location, url.href);
}
