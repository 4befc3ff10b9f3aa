import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import {
  fragmentPlacement,
  pageAddress,
  placementKey,
  type PlannedPage,
  type PreparedParts,
} from '@pragmatica/core';
import type { Logger } from 'pino';
import type { ServedByName, ServedRelease } from '../releases/release-table.js';
import { preferredCoding } from '../page/packing.js';
import { readyFile, type ReadyFile } from '../one-line/line.js';

const ALL = /^\/fragments\/([a-z0-9.-]+?)(?:\.json|\/([^/?]{1,300}))(?:\?(.*))?$/s;
/** Seconds for which a fragment is fresh, and may be used while it is asked for anew, or cannot be. */
const FRESH_S = 5;
const REVALIDATE_S = 30;
const AWAY_S = 86_400;
const HTML = 'text/html; charset=utf-8';
const JSON_TYPE = 'application/json';

interface Fragment {
  readonly file: ReadyFile;
  readonly type: string;
}

/**
 * Serves what a page gets at a placement, for web servers and templates that include it, and the whole plan of a page as
 * JSON. Whatever goes wrong, an include is empty: never an error's text in the middle of somebody's page.
 */
export class FragmentServer {
  readonly #releases: ServedByName;
  readonly #log: Logger;
  /** By what a page load gets: made once, whatever the page. */
  readonly #made = new WeakMap<PreparedParts, Map<string, Fragment>>();

  constructor(releases: ServedByName, log: Logger) {
    this.#releases = releases;
    this.#log = log;
  }

  /** @returns whether it was a request for a fragment */
  answer(request: IncomingMessage, response: ServerResponse, target: string): boolean {
    if (!target.startsWith('/fragments/')) return false;
    if (request.method !== 'GET' && request.method !== 'HEAD') {
      response.writeHead(405, { allow: 'GET, HEAD', 'content-length': 0 }).end();
      return true;
    }
    try {
      this.#answer(request, response, target);
    } catch (error) {
      this.#log.error({ err: error, url: target }, 'a fragment could not be made; the include is empty');
      sendNothing(response, 200);
    }
    return true;
  }

  #answer(request: IncomingMessage, response: ServerResponse, target: string): void {
    const [, name, place, query = ''] = ALL.exec(target) ?? [];
    const release = name === undefined ? undefined : this.#releases.served(name);
    const placement = place === undefined ? undefined : fragmentPlacement(decoded(place));
    if (release === undefined || (place !== undefined && !placement)) sendNothing(response, 404);
    else if (release === null) sendNothing(response, 200);
    else {
      const page = release.planner.page(addressIn(query));
      const now = Date.now();
      const { parts } = page.outcome(request.headers, now);
      const fragment = this.#fragment(parts, placement && placementKey(placement), release);
      send(request, response, fragment, page, now);
    }
  }

  #fragment(parts: PreparedParts, key: string | undefined, release: ServedRelease): Fragment {
    let made = this.#made.get(parts);
    if (!made) this.#made.set(parts, (made = new Map<string, Fragment>()));
    const name = key ?? '.json';
    let fragment = made.get(name);
    if (!fragment) {
      fragment =
        key === undefined
          ? { file: readyFile(planJson(parts, release)), type: JSON_TYPE }
          : { file: readyFile(htmlAt(parts, key)), type: HTML };
      made.set(name, fragment);
    }
    return fragment;
  }
}

/** The page that is asked about. A raw `path` may hold a query of its own, so it counts up to the end. */
function addressIn(query: string): ReturnType<typeof pageAddress> {
  const [, host] = /(?:^|&)host=([^&]*)&/.exec(query) ?? [];
  const [, path] = /(?:^|&)path=(.*)$/s.exec(query) ?? [];
  const written = path === undefined ? '/' : /^%2f/i.test(path) ? decoded(path) : path;
  const name = host && decoded(host).replace(/:\d*$/, '').toLowerCase();
  return pageAddress(written.startsWith('/') ? written : `/${written}`, name);
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

function htmlAt({ placements }: PreparedParts, key: string): string {
  const codes = placements.get(key) ?? [];
  return codes.map((part) => Buffer.from(part.bytes('utf-8') ?? []).toString()).join('');
}

/** What a page gets, by placement, for templates. */
function planJson(parts: PreparedParts, { number, digest }: ServedRelease): string {
  const placements = Object.fromEntries([...parts.placements.keys()].map((key) => [key, htmlAt(parts, key)]));
  return JSON.stringify({ release: number, digest, placements });
}

function send(
  request: IncomingMessage,
  response: ServerResponse,
  { file, type }: Fragment,
  page: PlannedPage,
  now: number,
): void {
  const until = page.until(now);
  const left = until === Infinity ? FRESH_S : Math.max(0, Math.floor((until - now) / 1000));
  const isBounded = left < REVALIDATE_S && until !== Infinity;
  const outlives = isBounded ? '' : `, stale-while-revalidate=${REVALIDATE_S}, stale-if-error=${AWAY_S}`;
  const headers = {
    'cache-control': `public, max-age=${Math.min(FRESH_S, left)}${outlives}`,
    etag: `"${createHash('sha256').update(type).update(file.etag).digest('base64url').slice(0, 22)}"`,
    vary: [...page.vary, 'Accept-Encoding'].join(', '),
    'x-content-type-options': 'nosniff',
    // What is included is for pages, not to be looked at by itself.
    'x-robots-tag': 'noindex',
  };
  const known = request.headers['if-none-match'];
  if (known !== undefined && (known.includes(headers.etag) || known.trim() === '*')) {
    response.writeHead(304, headers).end();
    return;
  }
  const coding = preferredCoding(request.headers['accept-encoding'], 'br');
  const packed = file.plain.length === 0 ? undefined : coding && file.packed(coding);
  const body = packed ?? file.plain;
  response.writeHead(200, {
    ...headers,
    ...(packed ? { 'content-encoding': coding } : {}),
    'content-type': type,
    'content-length': body.length,
  });
  response.end(request.method === 'HEAD' ? undefined : body);
}

function sendNothing(response: ServerResponse, status: number): void {
  response
    .writeHead(status, { 'content-type': HTML, 'content-length': 0, 'cache-control': 'no-store' })
    .end();
}
