import type { IncomingHttpHeaders } from 'node:http';
import { originCondition } from '@pragmatica/core';
import type { ClientFacts } from './client.js';

/** Headers that speak of one connection only (RFC 9110, 7.6.1). */
const HOP_BY_HOP = new Set([
  'connection',
  'keep-alive',
  'proxy-authenticate',
  'proxy-authorization',
  'proxy-connection',
  'te',
  'trailer',
  'transfer-encoding',
  'upgrade',
]);

/** Content codings that the gateway can undo and do again. */
export const KNOWN_CODINGS: ReadonlySet<string> = new Set(['gzip', 'br', 'deflate']);

export type HeaderMap = Record<string, string | string[]>;

/** The headers without those of one connection, the ones that `Connection` names included. */
export function endToEndHeaders(headers: IncomingHttpHeaders): HeaderMap {
  const named = headers.connection === undefined ? undefined : new Set(tokens(headers.connection));
  const kept: HeaderMap = {};
  for (const name in headers) {
    const value = headers[name];
    if (value !== undefined && !HOP_BY_HOP.has(name) && !named?.has(name)) kept[name] = value;
  }
  return kept;
}

export interface ForwardedRequest {
  readonly host: string;
  readonly client: ClientFacts;
  /** The address that the request came in from: the client's, or the last proxy's. */
  readonly peer: string;
  /** What the gateway calls itself in `Via`. */
  readonly pseudonym: string;
  /** Codings the origin may use; undefined leaves it those of the client that the gateway can undo. */
  readonly codings?: string | undefined;
  /** What stands in tags for the parts that this page load gets; empty where it gets none. */
  readonly partsTag: string;
  /** Some page load of this page gets parts. */
  readonly mayInsert: boolean;
}

/**
 * What the origin is sent. Of the codings that the client accepts only those are left that the gateway understands,
 * and conditions are translated, so that a page that was made with other parts is never called unchanged.
 */
export function originHeaders(
  headers: IncomingHttpHeaders,
  { host, client, peer, pseudonym, codings: acceptedCodings, partsTag, mayInsert }: ForwardedRequest,
): HeaderMap {
  const sent = endToEndHeaders(headers);
  delete sent['expect'];
  sent['host'] = host;
  sent['x-forwarded-host'] = host;
  sent['x-forwarded-proto'] = client.protocol;
  // What a stranger says of where it comes from is not passed on as if it were true.
  const before = client.isForwarded ? headers : {};
  sent['x-forwarded-for'] = appended(before['x-forwarded-for'], peer);
  sent['forwarded'] = appended(before.forwarded, forwardedElement(peer, host, client.protocol));
  sent['via'] = appended(headers.via, `1.1 ${pseudonym}`);
  if (acceptedCodings !== undefined) sent['accept-encoding'] = acceptedCodings;
  if (mayInsert && acceptedCodings === undefined) {
    const codings = tokens(headers['accept-encoding']).filter((coding) =>
      KNOWN_CODINGS.has(coding.split(';')[0]!.trim()),
    );
    sent['accept-encoding'] = codings.length > 0 ? codings.join(', ') : 'identity';
  }
  const isPageLoad = mayInsert && tokens(headers.accept).some((type) => type.startsWith('text/html'));
  if (isPageLoad) {
    // A date is the origin's; it knows nothing of releases. A range would be one of a page without parts.
    delete sent['if-modified-since'];
    delete sent['if-unmodified-since'];
    delete sent['range'];
    delete sent['if-range'];
  }
  const conditions = originCondition(headers['if-none-match'], partsTag, isPageLoad && partsTag !== '');
  if (conditions === undefined) delete sent['if-none-match'];
  else sent['if-none-match'] = conditions;
  return sent;
}

/** A list with one more element at its end. */
export function appended(list: string | readonly string[] | undefined, element: string): string {
  if (list === undefined || list.length === 0) return element;
  return element === '' ? [list].flat().join(', ') : `${[list].flat().join(', ')}, ${element}`;
}

/** One element of `Forwarded` (RFC 7239, 4). */
function forwardedElement(peer: string, host: string, protocol: string): string {
  const address = peer.includes(':') ? `"[${peer}]"` : peer;
  return `for=${address || 'unknown'};host="${host.replace(/["\\]/g, '')}";proto=${protocol}`;
}

/** What in an answer names the origin by its own address is said of the public one: redirects and cookies. */
export function rewriteOriginUrls(
  headers: HeaderMap,
  origin: string,
  publicHost: string,
  protocol: string,
): void {
  for (const name of ['location', 'content-location'] as const) {
    const value = headers[name];
    if (typeof value === 'string') headers[name] = publicUrl(value, origin, publicHost, protocol);
  }
  const cookies = headers['set-cookie'];
  if (cookies === undefined) return;
  const { hostname } = new URL(origin);
  headers['set-cookie'] = [cookies].flat().map((cookie) => withoutDomain(cookie, hostname, publicHost));
}

function publicUrl(value: string, origin: string, publicHost: string, protocol: string): string {
  if (!/^https?:/i.test(value) || !URL.canParse(value)) return value;
  const url = new URL(value);
  if (url.origin !== origin || url.host === publicHost) return value;
  const path = value.indexOf('/', value.indexOf('//') + 2);
  return `${protocol}://${publicHost}${path < 0 ? '' : value.slice(path)}`;
}

/** A cookie for the origin's own host becomes one for the host that set it (RFC 6265, 5.2.3: no domain). */
function withoutDomain(cookie: string, originHost: string, publicHost: string): string {
  return cookie.replace(/;\s*domain=\.?([^;]*)/i, (attribute: string, domain: string) => {
    const name = domain.trim().toLowerCase();
    const host = publicHost.replace(/:\d+$/, '');
    const isPublic = host === name || host.endsWith(`.${name}`);
    const isOrigins = originHost === name || originHost.endsWith(`.${name}`);
    return isOrigins && !isPublic ? '' : attribute;
  });
}

/** Items of a comma-separated list, as they are. */
function items(value: string | undefined): string[] {
  return (value ?? '')
    .split(',')
    .map((item) => item.trim())
    .filter(Boolean);
}

/** Items of a list that is compared without case. */
export function tokens(value: string | undefined): string[] {
  return items(value?.toLowerCase());
}

export function firstOf(value: string | string[] | undefined): string | undefined {
  return Array.isArray(value) ? value[0] : value;
}
