import type { EntityManager } from '@mikro-orm/postgresql';
import type { ReleaseSummary } from '@pragmatica/contract';
import { difference } from '@pragmatica/core';
import { PointerEntity, ReleaseEntity } from '../storage/entities/index.js';
import { etag } from './entity-tag.js';
import { releaseSummary } from './release-summary.js';
import { findRelease, type Sets } from './sets.js';
import { findSite } from './site-lock.js';

/** The releases of a site, the newest first; what they hold is not read. @throws ServiceError 404 */
export async function listReleases(em: EntityManager, key: string): Promise<ReleaseSummary[]> {
  const site = await findSite(em, key);
  const pointers = await em.find(PointerEntity, { site });
  const releases = await em.find(
    ReleaseEntity,
    { site },
    { orderBy: { number: 'desc' }, exclude: ['snippets'] },
  );
  return releases.map((release) => releaseSummary(release, pointers));
}

/** A release with what it holds. @throws ServiceError 404 */
export async function showRelease(sets: Sets, em: EntityManager, key: string, number: number) {
  const site = await findSite(em, key);
  const release = await findRelease(em, site, number);
  const data = {
    ...releaseSummary(release, await em.find(PointerEntity, { site })),
    snapshot: await sets.release(em, release),
  };
  return { data, etag: etag(release.digest) };
}

/** What differs between two sets of a site, in words. @throws ServiceError 404 */
export async function showDiff(
  sets: Sets,
  em: EntityManager,
  key: string,
  references: { readonly from: string; readonly to: string },
) {
  const site = await findSite(em, key);
  const from = await sets.resolve(em, site, references.from);
  const to = await sets.resolve(em, site, references.to);
  return { from: from.name, to: to.name, changes: difference(from.snapshot, to.snapshot) };
}
