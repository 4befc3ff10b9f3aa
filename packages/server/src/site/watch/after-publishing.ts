import type { Environment } from '@pragmatica/contract';
import { deliveryOf } from '@pragmatica/core';
import { hostsOf } from '../../storage/hosts.js';
import { pointersOf } from '../../storage/pointers.js';
import type { Host, Site } from '../../storage/rows.js';
import { watchOf } from '../../storage/site-watches.js';
import type { Store } from '../../storage/store.js';
import { addRound, supersedeRounds, sweepRounds } from '../../storage/visit-rounds.js';
import { KEPT_ROUNDS } from '../visits/start-visits.js';

/** Of an environment with many hosts the first so many are visited: they get the same set in the same way. */
const MOST_HOSTS = 3;

/** Seconds that a release has to reach all who serve it before it is looked at. */
export const SETTLE_S = 3;

/** Numbers of the releases that environments serve. */
export type Served = ReadonlyMap<Environment, number>;

export async function servedBy(store: Store, site: Site): Promise<Served> {
  const pointers = await pointersOf(store, site);
  return new Map(pointers.map(({ environment, release }) => [environment, release.number]));
}

/**
 * Plans visits to the hosts that serve something else now, unless the site's settings say that none follow. Called inside the
 * transaction that changed it.
 *
 * @param former - what was served before
 * @returns ids of the rounds, for the queue
 */
export async function visitAfterPublishing(
  store: Store,
  site: Site,
  environments: readonly Environment[],
  former: Served,
  actor: string,
): Promise<readonly number[]> {
  const { afterPublishing } = await watchOf(store, site);
  if (afterPublishing === 'nothing') return [];
  const served = await servedBy(store, site);
  const rounds: number[] = [];
  for (const host of hostsToVisit(await hostsOf(store, site), environments)) {
    await supersedeRounds(store, site, host.host);
    const round = await addRound(store, site, {
      ...{ host: host.host, environment: host.environment, delivery: host.delivery, requestedBy: actor },
      release: served.get(host.environment) ?? null,
      options: {
        pages: 'sample',
        watch: { reason: 'release', former: former.get(host.environment) ?? null },
      },
    });
    rounds.push(round.id);
  }
  await sweepRounds(store, site.id, KEPT_ROUNDS);
  return rounds;
}

/** One of each way before the second of any: each way fails in its own manner. */
function hostsToVisit(hosts: readonly Host[], environments: readonly Environment[]): readonly Host[] {
  const candidates = hosts.filter(
    ({ environment, delivery }) =>
      environments.includes(environment) && deliveryOf(delivery).followsPublishing,
  );
  const ofEachWay = candidates.filter(
    (host, index) =>
      candidates.findIndex(
        ({ environment, delivery }) => environment === host.environment && delivery === host.delivery,
      ) === index,
  );
  return [...new Set([...ofEachWay, ...candidates])].slice(0, MOST_HOSTS);
}
