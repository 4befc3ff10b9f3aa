import {
  OF_THE_PAGES_BYTES,
  isWholePage,
  pageAddress,
  variantEtag,
  type Outcome,
  type PlannedPage,
  type PreparedParts,
  type Visit,
} from '@pragmatica/core';
import type { FollowedRelease } from './follow.js';
import type { AnswerHeaders, InsertSettings } from './answer.js';
import { policedParts } from './page-policy.js';

/** Where what pages get is found. */
export interface Releases {
  readonly release: FollowedRelease | undefined;
}

/** What one page load gets. */
export interface PlannedLoad {
  readonly release: FollowedRelease;
  readonly page: PlannedPage;
  readonly outcome: Outcome;
  readonly now: number;
}

/**
 * @param target - path and query of the request
 * @param host - as the visitor asked for it, with or without a port
 * @returns undefined where no page load of the page gets anything
 */
export function planLoad(
  { release }: Releases,
  target: string,
  host: string,
  visit: Visit,
): PlannedLoad | undefined {
  if (!release) return undefined;
  const now = Date.now();
  const page = release.planner.page(pageAddress(target, host.replace(/:\d*$/, '').toLowerCase()));
  if (!page.isInReach) return undefined;
  return { release, page, outcome: page.outcome(visit, now), now };
}

/**
 * Makes the headers of an answer those of the page with its parts.
 *
 * @param address - scheme and host of the page
 * @returns the parts that go into its body; undefined where none do
 */
export function changeHeaders(
  headers: AnswerHeaders,
  status: number,
  { release, page, outcome, now }: PlannedLoad,
  address: string,
  settings: InsertSettings,
): PreparedParts | undefined {
  const tag = headers.get('etag');
  // "Not modified" speaks of what the client has (RFC 9110, 15.4.5).
  if (status === 304 && tag !== undefined && outcome.tag !== '')
    headers.set('etag', variantEtag(tag, outcome.tag));
  const isPage = isWholePage(status, headers.get('content-type'), headers.get('cache-control'));
  if (!isPage || (headers.get('content-encoding') ?? 'identity') !== 'identity') return undefined;
  if (page.vary.length > 0)
    headers.set('vary', [headers.get('vary'), ...page.vary].filter(Boolean).join(', '));
  // Opening hours change what the page gets: caches have to ask each time, which its tag makes cheap.
  if (page.until(now) !== Infinity) headers.set('cache-control', 'no-cache');
  if (outcome.tag === '') return undefined;
  for (const name of OF_THE_PAGES_BYTES) headers.remove(name);
  if (tag !== undefined) headers.set('etag', variantEtag(tag, outcome.tag));
  headers.set('pragmatica-release', String(release.number));
  return policedParts(headers, outcome.parts, release, address, settings);
}
