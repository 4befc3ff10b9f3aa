import { DEVICE_HEADERS, DEVICE_HINT, type PlannedPage } from '@pragmatica/core';
import { firstOf, type HeaderMap } from './headers.js';

/**
 * Says in an answer what else its page depends on than its address: on which headers of the request (`Vary`, RFC 9110,
 * 12.5.5), which hint browsers are asked for (`Accept-CH`, RFC 8942), and until when it may be kept. Pages of a release
 * that depend on nothing else stay as they are.
 *
 * @param now - milliseconds since 1970
 */
export function setReachHeaders(headers: HeaderMap, page: PlannedPage, now: number): void {
  if (page.vary.length > 0) {
    headers['vary'] = joined(headers['vary'], page.vary);
    if (page.vary.includes(DEVICE_HEADERS[0]))
      headers['accept-ch'] = joined(headers['accept-ch'], [DEVICE_HINT]);
  }
  const until = page.until(now);
  if (until !== Infinity) boundFreshness(headers, Math.max(0, Math.floor((until - now) / 1000)), now);
}

/** Names one more header of the request on which an answer depends. */
export function addVary(headers: HeaderMap, name: string): void {
  headers['vary'] = joined(headers['vary'], [name]);
}

function joined(value: string | string[] | undefined, more: readonly string[]): string {
  if (value === undefined) return more.join(', ');
  const there = list(value);
  const names = new Set(there.map((name) => name.toLowerCase()));
  if (names.has('*')) return '*';
  return [...there, ...more.filter((name) => !names.has(name.toLowerCase()))].join(', ');
}

function list(value: string | string[] | undefined): string[] {
  return [value ?? []]
    .flat()
    .flatMap((part) => part.split(','))
    .map((part) => part.trim())
    .filter(Boolean);
}

/** They let a cache use an answer after its time. */
const LETS_OUTLIVE = /^(?:immutable|stale-while-revalidate|stale-if-error)\b/i;
const LIFETIME = /^(max-age|s-maxage)\s*=\s*"?(\d+)"?$/i;

/**
 * No cache may keep the answer longer than so many seconds (RFC 9111, 4.2). An answer that says nothing of how long it
 * is fresh could be kept by guess: it is then asked for again each time, which its tag makes cheap.
 */
function boundFreshness(headers: HeaderMap, seconds: number, now: number): void {
  const age = Number(firstOf(headers['age']) ?? 0) || 0;
  const most = age + seconds;
  for (const name of ['cache-control', 'cdn-cache-control']) {
    if (headers[name] === undefined) continue;
    const bounded = list(headers[name]).flatMap((directive) => {
      if (LETS_OUTLIVE.test(directive)) return [];
      const lifetime = LIFETIME.exec(directive);
      return lifetime ? [`${lifetime[1]!}=${Math.min(Number(lifetime[2]), most)}`] : [directive];
    });
    headers[name] = bounded.join(', ');
  }
  const expires = firstOf(headers['expires']);
  if (expires !== undefined) {
    const at = Date.parse(expires);
    const last = now + seconds * 1000;
    // What is no date means that it has expired already.
    if (!Number.isNaN(at) && at > last) headers['expires'] = new Date(last).toUTCString();
    return;
  }
  const directives = list(headers['cache-control']);
  const isExplicit = directives.some((one) => /^no-(?:cache|store)$/i.test(one) || LIFETIME.test(one));
  if (!isExplicit) headers['cache-control'] = [...directives, 'no-cache'].join(', ');
}
