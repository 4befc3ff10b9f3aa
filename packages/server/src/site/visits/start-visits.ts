import type { VisitRoundInput } from '@pragmatica/contract';
import { ServiceError } from '../../errors.js';
import { hostsOf } from '../../storage/hosts.js';
import { pointerOf } from '../../storage/pointers.js';
import { audit } from '../../storage/trail.js';
import {
  addRound,
  endRound,
  sweepRounds,
  type RoundOptions,
  type VisitRound,
} from '../../storage/visit-rounds.js';
import { say } from '../../texts/say.js';
import { VISITS_TEXTS } from '../../texts/visits.js';
import { chooseHost } from '../choose-host.js';
import { withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';
import { findRound } from './visit-resource.js';

/** A round as it is asked for, with what was left out filled in. */
export type RoundRequest = Required<Omit<VisitRoundInput, 'host' | 'devices' | 'thirdParties' | 'weigh'>> &
  Pick<VisitRoundInput, 'host' | 'devices' | 'thirdParties' | 'weigh'>;

/** Rounds whose evidence is kept; those before are removed. */
export const KEPT_ROUNDS = 60;

/**
 * Puts a round of visits in line; workers do the rest.
 *
 * @param question - what it is to answer, where somebody asked something else than how things are, or nobody asked
 * @throws ServiceError 404 for a host that is none of the site's, 409 where nothing is published there
 */
export async function startVisits(
  key: string,
  { environment, host: named, ...options }: RoundRequest,
  { store, actor }: Acting,
  question: Pick<RoundOptions, 'given' | 'trouble' | 'picture' | 'watch'> = {},
): Promise<VisitRound> {
  return withSiteLock(store, key, async (transaction, site) => {
    const host = chooseHost(await hostsOf(transaction, site), key, environment, named);
    const pointer = await pointerOf(transaction, site, host.environment);
    if (!pointer && !options.draft && !question.picture)
      throw new ServiceError('nothing-published', { environment: host.environment });
    const round = await addRound(transaction, site, {
      host: host.host,
      environment: host.environment,
      delivery: host.delivery,
      release: pointer?.release.number ?? null,
      options: { ...options, ...question },
      requestedBy: actor,
    });
    await sweepRounds(transaction, site.id, KEPT_ROUNDS);
    // A question is no act that anybody looks for later, and what begins by itself is nobody's.
    if (!question.given && !question.trouble && !question.watch) {
      const { number } = round;
      audit(transaction, site, actor, 'visits.start', () =>
        say(VISITS_TEXTS.roundStarted, { number, host: host.host }),
      );
    }
    await transaction.flush();
    return round;
  });
}

/** Ends a round that is not over. @throws ServiceError 404 */
export async function cancelVisits(
  key: string,
  reference: 'latest' | number,
  { store, actor }: Acting,
): Promise<VisitRound> {
  const { site, round } = await findRound(store, key, reference);
  if (await endRound(store, round.id, 'cancelled')) {
    const { number, host } = round;
    audit(store, site, actor, 'visits.cancel', () => say(VISITS_TEXTS.roundCancelled, { number, host }));
    await store.flush();
  }
  return (await findRound(store, key, round.number)).round;
}
