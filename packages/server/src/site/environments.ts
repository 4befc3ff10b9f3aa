import type { Store } from '../storage/store.js';
import type { Environment } from '@pragmatica/contract';
import { plainChanges } from '@pragmatica/core';
import { pointTo, pointerOf } from '../storage/pointers.js';
import type { Pointer, Site } from '../storage/rows.js';
import { etag } from './entity-tag.js';
import { assertIfMatch } from './if-match.js';
import { findRelease } from './sets.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { findSite, withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';
import { assertReleaseApproved, noteLive } from './approvals/rule.js';
import { servedBy, visitAfterPublishing } from './watch/after-publishing.js';
import { tellAct, type Home } from './watch/tell-act.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

/** Which release an environment serves. @throws ServiceError 404 */
export async function showEnvironment(store: Store, key: string, environment: Environment) {
  return stateOf(store, await findSite(store, key), environment);
}

/**
 * Puts a release back into an environment; the draft stays as it is.
 *
 * @param ifMatch - what the environment serves, as whoever asks has seen it
 * @returns how it is then, and the ids of rounds of visits that look at it
 * @throws ServiceError 404, 412
 */
export async function restoreRelease(
  key: string,
  environment: Environment,
  number: number,
  ifMatch: string,
  { store, actor }: Acting,
  home: Home,
) {
  return withSiteLock(store, key, async (transaction, site) => {
    const pointer = await pointerOf(transaction, site, environment);
    const last = pointer ? { by: pointer.changedBy, at: pointer.changedAt } : undefined;
    assertIfMatch(
      ifMatch,
      pointerTag(environment, pointer),
      say(SITE_TEXTS.whatEnvironmentServes, { environment }),
      last,
    );
    const release = await findRelease(transaction, site, number);
    const before = pointer?.release.number ?? null;
    if (environment === 'live') await assertReleaseApproved(transaction, site, release);
    // Who goes back to an older release has a reason, and is not overruled.
    const isForward = number > (pointer?.release.number ?? 0);
    const former = isForward ? await servedBy(transaction, site) : new Map<Environment, number>();
    await pointTo(transaction, site, environment, release, actor);
    if (environment === 'live') await noteLive(transaction, site, release);
    audit(
      transaction,
      site,
      actor,
      'restore',
      () => say(SITE_TEXTS.putReleaseNumber, { number: release.number, environment }),
      plainChanges(
        'environment',
        { [environment]: { release: before } },
        { [environment]: { release: release.number } },
      ),
    );
    await transaction.flush();
    await notifyGateways(transaction, site);
    const act = { kind: 'restored', by: actor, release: number, environment } as const;
    await tellAct(transaction, site, act, { home, at: '/releases', more: { former: before } });
    const rounds = await visitAfterPublishing(transaction, site, [environment], former, actor);
    return { restored: await stateOf(transaction, site, environment), rounds };
  });
}

async function stateOf(store: Store, site: Site, environment: Environment) {
  const pointer = await pointerOf(store, site, environment);
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

function pointerTag(environment: Environment, pointer: Pointer | undefined): string {
  return etag(`${environment}-${pointer?.version ?? 0}`);
}
