import type { IncomingHttpHeaders, OutgoingHttpHeaders } from 'node:http';
import { parse as parseCookies } from 'cookie';
import type { SiteResponse } from '../outgoing/site-request.js';
import { PASS_NAME, ownPath } from './address.js';

/** What a browser says that the site may hear; what is about caching and about the connection is not. */
const HEARD = [
  'accept',
  'accept-language',
  'range',
  'sec-ch-ua',
  'sec-ch-ua-mobile',
  'sec-ch-ua-platform',
  'user-agent',
  'x-requested-with',
];

/** What is about the connection, the encoding, the page as it was, or the site’s real address (RFC 9110, 7.6.1; RFC 6797). */
const KEPT_BACK = new Set([
  'alt-svc',
  'clear-site-data',
  'connection',
  'content-encoding',
  'content-length',
  'etag',
  'keep-alive',
  'last-modified',
  'location',
  'pragmatica-release',
  'server-timing',
  'set-cookie',
  'strict-transport-security',
  'trailer',
  'transfer-encoding',
  'upgrade',
  'www-authenticate',
]);

/** Cookies of the site, without the one that lets somebody in here. */
export function siteCookies(header: string | undefined): string {
  return (header ?? '')
    .split(/;\s*/)
    .filter((pair) => pair !== '' && pair.split('=', 1)[0] !== PASS_NAME)
    .join('; ');
}

/** The pass that a browser keeps. */
export function keptPass(header: string | undefined): string | undefined {
  return parseCookies(header ?? '')[PASS_NAME];
}

/** Headers with which the site is asked. @param access - what lets us in there, with a cookie of its own perhaps */
export function headersForSite(
  headers: IncomingHttpHeaders,
  access: Readonly<Record<string, string>>,
): Record<string, string> {
  const heard = HEARD.flatMap((name) => {
    const value = headers[name];
    return typeof value === 'string' ? [[name, value] as const] : [];
  });
  const cookie = [siteCookies(headers.cookie), access['cookie'] ?? ''].filter(Boolean).join('; ');
  return { ...Object.fromEntries(heard), ...access, ...(cookie === '' ? {} : { cookie }) };
}

/**
 * Headers of the site’s answer as the preview sends them on: redirects to the site lead to the preview, cookies are the preview’s,
 * and nobody lists or keeps any of it.
 *
 * @param origin - of the site
 */
export function headersForBrowser(
  answer: SiteResponse,
  origin: string,
  isSecure: boolean,
): OutgoingHttpHeaders {
  const headers: OutgoingHttpHeaders = {};
  for (const [name, value] of answer.headers) if (!KEPT_BACK.has(name)) headers[name] = value;
  const location = answer.headers.get('location');
  if (location !== null) headers['location'] = ownLocation(location, origin);
  const cookies = answer.headers.getSetCookie().filter((cookie) => !cookie.startsWith(`${PASS_NAME}=`));
  if (cookies.length > 0) headers['set-cookie'] = cookies.map((cookie) => ownCookie(cookie, isSecure));
  headers['x-robots-tag'] = 'noindex, nofollow';
  headers['cache-control'] = 'no-store';
  return headers;
}

function ownLocation(location: string, origin: string): string {
  if (!URL.canParse(location, origin)) return location;
  const url = new URL(location, origin);
  return url.origin === origin ? ownPath(url) : location;
}

/** A cookie for whatever host sets it; over http it cannot ask for encryption. */
function ownCookie(cookie: string, isSecure: boolean): string {
  return cookie
    .split(';')
    .filter((attribute, index) => {
      const name = attribute.trim().split('=', 1)[0]!.toLowerCase();
      return (
        index === 0 || !(name === 'domain' || (!isSecure && (name === 'secure' || name === 'partitioned')))
      );
    })
    .map((attribute) => (isSecure ? attribute : attribute.replace(/^(\s*samesite=)none$/i, '$1Lax')))
    .join(';');
}
