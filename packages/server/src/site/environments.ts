import type { EntityManager } from '@mikro-orm/postgresql';
import type { Environment } from '@pragmatica/contract';
import { PointerEntity, type Pointer, type Site } from '../storage/entities/index.js';
import { etag } from './entity-tag.js';
import { assertIfMatch } from './if-match.js';
import { point } from './publish.js';
import { findRelease } from './sets.js';
import { audit, findSite, notifyGateways, withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';

/** Which release an environment serves. @throws ServiceError 404 */
export async function showEnvironment(em: EntityManager, key: string, environment: Environment) {
  return stateOf(em, await findSite(em, key), environment);
}

/**
 * Puts a release back into an environment; the draft stays as it is.
 *
 * @param ifMatch - what the environment serves, as whoever asks has seen it
 * @throws ServiceError 404, 412
 */
export async function restoreRelease(
  key: string,
  environment: Environment,
  number: number,
  ifMatch: string,
  { em, actor }: Acting,
) {
  return withSiteLock(em, key, async (transaction, site) => {
    const pointer = await transaction.findOne(PointerEntity, { site, environment });
    const last = pointer ? { by: pointer.changedBy, at: pointer.changedAt } : undefined;
    assertIfMatch(ifMatch, pointerTag(environment, pointer), `What ${environment} serves`, last);
    const release = await findRelease(transaction, site, number);
    await point(transaction, site, environment, release, actor);
    audit(transaction, site, actor, 'restore', `Put release ${release.number} back into ${environment}.`);
    await transaction.flush();
    await notifyGateways(transaction, site);
    return stateOf(transaction, site, environment);
  });
}

async function stateOf(em: EntityManager, site: Site, environment: Environment) {
  const pointer = await em.findOne(PointerEntity, { site, environment }, { populate: ['release'] });
  return {
    data: {
      environment,
      release: pointer?.release.number ?? null,
      changedBy: pointer?.changedBy ?? null,
      changedAt: pointer?.changedAt.toISOString() ?? null,
    },
    etag: pointerTag(environment, pointer),
  };
}

function pointerTag(environment: Environment, pointer: Pointer | null): string {
  return etag(`${environment}-${pointer?.version ?? 0}`);
}
