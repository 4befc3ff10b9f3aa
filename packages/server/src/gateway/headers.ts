import type { IncomingHttpHeaders } from 'node:http';

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
  const named = new Set(tokens(headers.connection));
  const kept: HeaderMap = {};
  for (const [name, value] of Object.entries(headers)) {
    if (value !== undefined && !HOP_BY_HOP.has(name) && !named.has(name)) kept[name] = value;
  }
  return kept;
}

export interface ForwardedRequest {
  readonly host: string;
  readonly clientAddress: string;
}

/**
 * What the origin is sent. Of the codings that the client accepts only those are left that the gateway understands,
 * and conditions are translated, so that a page that was made with another release is never called unchanged.
 */
export function originHeaders(
  headers: IncomingHttpHeaders,
  { host, clientAddress }: ForwardedRequest,
  release: string | undefined,
): HeaderMap {
  const sent = endToEndHeaders(headers);
  delete sent['expect'];
  delete sent['host'];
  sent['x-forwarded-host'] = host;
  sent['x-forwarded-proto'] = 'http';
  sent['x-forwarded-for'] = [headers['x-forwarded-for'], clientAddress].flat().filter(Boolean).join(', ');
  sent['via'] = [headers.via, '1.1 pragmatica'].filter(Boolean).join(', ');
  const codings = tokens(headers['accept-encoding']).filter((coding) =>
    KNOWN_CODINGS.has(coding.split(';')[0]!.trim()),
  );
  if (codings.length > 0) sent['accept-encoding'] = codings.join(', ');
  else sent['accept-encoding'] = 'identity';
  const conditions = translateConditions(headers['if-none-match'], release);
  if (conditions === undefined) delete sent['if-none-match'];
  else sent['if-none-match'] = conditions;
  return sent;
}

const TAG_SUFFIX = /;pragmatica-(\w+)"$/;

/** The page's own tag with the release in it: another release makes another representation (RFC 9110, 8.8.3). */
export function insertedTag(originTag: string, release: string): string {
  const weak = originTag.startsWith('W/') ? originTag : `W/${originTag}`;
  return weak.replace(/"$/, `;pragmatica-${release}"`);
}

/** The origin's tags in a client's condition (tags that hold a comma are split and then match nothing, which is safe). Tags made with another release are dropped: they no longer hold. */
function translateConditions(condition: string | undefined, release: string | undefined): string | undefined {
  const tags = items(condition).flatMap((tag) => {
    const made = TAG_SUFFIX.exec(tag);
    if (!made) return [tag];
    return made[1] === release ? [tag.replace(TAG_SUFFIX, '"')] : [];
  });
  return tags.length > 0 ? tags.join(', ') : undefined;
}

/** Items of a comma-separated list, as they are. */
function items(value: string | undefined): string[] {
  return (value ?? '')
    .split(',')
    .map((item) => item.trim())
    .filter(Boolean);
}

/** Items of a list that is compared without case. */
function tokens(value: string | undefined): string[] {
  return items(value?.toLowerCase());
}
