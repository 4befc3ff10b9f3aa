import type { EntityManager } from '@mikro-orm/postgresql';
import type { Environment } from '@pragmatica/contract';
import type { Snapshot } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { loadDraft, snapshotSite, toSnapshot } from '../storage/draft.js';
import { PointerEntity, ReleaseEntity, type Release, type Site } from '../storage/entities/index.js';
import { releaseSnapshot } from '../storage/releases.js';

/** The set before anything was published: nothing. */
export function emptySnapshot(site: Site): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: snapshotSite(site),
    snippets: [],
  };
}

/**
 * The set that a reference (`draft`, `live`, `staging` or a release's number) means.
 *
 * @returns the snapshot, and a name for people
 * @throws ServiceError 404 for a release that does not exist
 */
export async function resolveSet(
  em: EntityManager,
  site: Site,
  reference: string,
): Promise<{ name: string; snapshot: Snapshot }> {
  if (reference === 'draft')
    return { name: 'the draft', snapshot: toSnapshot(site, await loadDraft(em, site)) };
  if (reference === 'live' || reference === 'staging') {
    const served = await servedRelease(em, site, reference);
    return served
      ? { name: `${reference} (release ${served.number})`, snapshot: served.snapshot }
      : { name: `${reference} (nothing published yet)`, snapshot: emptySnapshot(site) };
  }
  const release = await findRelease(em, site, Number(reference));
  return { name: `release ${release.number}`, snapshot: await releaseSnapshot(em, release) };
}

/** The release that an environment serves; undefined while there is none. */
export async function servedRelease(
  em: EntityManager,
  site: Site,
  environment: Environment,
): Promise<{ number: number; snapshot: Snapshot } | undefined> {
  const pointer = await em.findOne(PointerEntity, { site, environment }, { populate: ['release'] });
  if (!pointer) return undefined;
  const release = pointer.release as Release;
  return { number: release.number, snapshot: await releaseSnapshot(em, release) };
}

/** @throws ServiceError 404 */
export async function findRelease(em: EntityManager, site: Site, number: number): Promise<Release> {
  const release = await em.findOne(ReleaseEntity, { site, number });
  if (!release) throw new ServiceError('not-found', `The site "${site.key}" has no release ${number}.`);
  return release;
}
