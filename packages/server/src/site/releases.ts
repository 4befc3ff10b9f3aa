import type { Store } from '../storage/store.js';
import type { ReleaseSummary } from '@pragmatica/contract';
import { difference } from '@pragmatica/core';
import { pointersOf } from '../storage/pointers.js';
import { releasesOf } from '../storage/releases.js';
import { toPage } from '../storage/cursor.js';
import type { NewestListing } from './activity.js';
import { etag } from './entity-tag.js';
import { releaseSummary } from './release-summary.js';
import { findRelease, type Sets } from './sets.js';
import { findSite } from './site-lock.js';

/** Releases of a site, the newest first; what they hold is not read. @throws ServiceError 404 */
export async function listReleases(
  store: Store,
  key: string,
  { limit, after }: NewestListing,
): Promise<{ items: ReleaseSummary[]; next: string | null }> {
  const site = await findSite(store, key);
  const pointers = await pointersOf(store, site);
  const releases = await releasesOf(store, site, limit + 1, after?.[0]);
  const { page, next } = toPage(releases, limit, ({ number }) => [number]);
  return { items: page.map((release) => releaseSummary(release, pointers)), next };
}

/** A release with what it holds. @throws ServiceError 404 */
export async function showRelease(sets: Sets, store: Store, key: string, number: number) {
  const site = await findSite(store, key);
  const release = await findRelease(store, site, number);
  const data = {
    ...releaseSummary(release, await pointersOf(store, site)),
    snapshot: await sets.release(store, release),
  };
  return { data, etag: etag(release.digest) };
}

/** What differs between two sets of a site, in words. @throws ServiceError 404 */
export async function showDiff(
  sets: Sets,
  store: Store,
  key: string,
  references: { readonly from: string; readonly to: string },
) {
  const site = await findSite(store, key);
  const from = await sets.resolve(store, site, references.from);
  const to = await sets.resolve(store, site, references.to);
  return { from: from.name, to: to.name, changes: difference(from.snapshot, to.snapshot) };
}
