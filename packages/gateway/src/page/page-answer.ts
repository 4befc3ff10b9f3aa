import { OF_THE_BYTES } from './answer-writer.js';
import { KNOWN_CODINGS, appended, firstOf, variantEtag, type HeaderMap } from './headers.js';

/** A whole HTML document in a coding that we know, and that may be changed (RFC 9110, 7.7: `no-transform`). */
export function isInsertable(status: number, headers: HeaderMap): boolean {
  if (status === 204 || status === 206 || status === 304) return false;
  if (!/^\s*text\/html\s*(;|$)/i.test(firstOf(headers['content-type']) ?? '')) return false;
  const coding = firstOf(headers['content-encoding']) ?? 'identity';
  if (coding !== 'identity' && !KNOWN_CODINGS.has(coding)) return false;
  return !/\bno-transform\b/i.test(firstOf(headers['cache-control']) ?? '');
}

/** The new length is not known before the end; dates, ranges and digests would speak of the origin's bytes. */
const OF_THE_ORIGINS_BYTES: ReadonlySet<string> = new Set([...OF_THE_BYTES, 'last-modified']);

/** The origin's headers as they go out with a page that has parts in it, without its length. */
export function insertedHeaders(
  headers: HeaderMap,
  {
    release,
    outcome,
  }: { readonly release: { readonly number: number }; readonly outcome: { readonly tag: string } },
  serverTiming: boolean,
): HeaderMap {
  const sent: HeaderMap = {};
  for (const name in headers) if (!OF_THE_ORIGINS_BYTES.has(name)) sent[name] = headers[name]!;
  sent['pragmatica-release'] = String(release.number);
  if (serverTiming)
    sent['server-timing'] = appended(headers['server-timing'], `pragmatica;desc="release ${release.number}"`);
  const tag = firstOf(headers['etag']);
  if (tag !== undefined) sent['etag'] = variantEtag(tag, outcome.tag);
  return sent;
}
