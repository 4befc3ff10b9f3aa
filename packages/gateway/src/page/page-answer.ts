import { OF_THE_PAGES_BYTES, isWholePage, variantEtag } from '@pragmatica/core';
import { KNOWN_CODINGS, appended, firstOf, type HeaderMap } from './headers.js';

/** A whole HTML document in a coding that we know. */
export function isInsertable(status: number, headers: HeaderMap): boolean {
  if (!isWholePage(status, firstOf(headers['content-type']), firstOf(headers['cache-control']))) return false;
  const coding = firstOf(headers['content-encoding']) ?? 'identity';
  return coding === 'identity' || KNOWN_CODINGS.has(coding);
}

const OF_THE_ORIGINS_BYTES: ReadonlySet<string> = new Set(OF_THE_PAGES_BYTES);

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
