import type {
  EndpointResponse,
  Endpoints,
  VisitRoundResource,
  VisitSummaryResource,
} from '@pragmatica/contract';
import { sayIn, summarizeVisits, type JudgedLoad, type RoundSummary } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { lastDoneRound, roundByNumber, type VisitRound } from '../../storage/visit-rounds.js';
import { visitByNumber, visitsOf, type Visit } from '../../storage/visits.js';
import { VISIT_PROBLEMS } from '../../texts/visits.js';
import { findSite } from '../site-lock.js';

/** A round by its number, or the newest that came to its end. @throws ServiceError 404 */
export async function findRound(
  store: Store,
  key: string,
  reference: 'latest' | number,
): Promise<{ readonly site: Site; readonly round: VisitRound }> {
  const site = await findSite(store, key);
  const round =
    reference === 'latest' ? await lastDoneRound(store, site) : await roundByNumber(store, site, reference);
  if (round) return { site, round };
  if (reference === 'latest') throw new ServiceError('no-visits-yet', { site: key });
  throw new ServiceError('no-such-round', { site: key, number: reference });
}

/** A visit of a round. @throws ServiceError 404 */
export async function findVisit(
  store: Store,
  key: string,
  reference: 'latest' | number,
  number: number,
): Promise<{ readonly round: VisitRound; readonly visit: Visit }> {
  const { round } = await findRound(store, key, reference);
  const visit = await visitByNumber(store, round, number);
  if (!visit) throw new ServiceError('no-such-visit', { round: round.number, number });
  return { round, visit };
}

export function roundResource(round: VisitRound, locale: string): VisitRoundResource {
  const { number, host, environment, delivery, release, state, browser, planned, done, requestedBy } = round;
  const { options } = round;
  return {
    ...{ number, host, environment, delivery, release, state, browser, planned, done, requestedBy },
    problem: problemWords(round, locale),
    isRehearsal: options.draft === true,
    reason: options.watch?.reason ?? null,
    confirms: options.watch?.confirms ?? null,
    isWell: round.isWell,
    isQuestion: options.given !== undefined || options.trouble !== undefined || options.weigh === true,
    isWeighing: options.weigh === true,
    createdAt: round.createdAt.toISOString(),
    startedAt: round.startedAt?.toISOString() ?? null,
    endedAt: round.endedAt?.toISOString() ?? null,
  };
}

function problemWords({ problem }: VisitRound, locale: string): string | null {
  if (problem === null) return null;
  const text = VISIT_PROBLEMS[problem.id as keyof typeof VISIT_PROBLEMS];
  return sayIn(locale)(text as (typeof VISIT_PROBLEMS)['host-gone'], problem.params as { host: string });
}

export function visitResource(visit: Visit): VisitSummaryResource {
  const { number, path, title, because, state, failure, durationMs, script } = visit;
  return {
    ...{ number, path, title, because, state, failure, durationMs },
    device: script.device,
    missed: missedIn(visit.judged ?? []),
  };
}

/** Snippets that did not come as far as they should have. */
function missedIn(judged: readonly JudgedLoad[]): number {
  const missed = judged.flatMap(({ snippets }) =>
    snippets.filter((one) => one.missed !== undefined || one.isIntruder).map(({ snippet }) => snippet),
  );
  return new Set(missed).size;
}

/** A round with its visits, and what they found together. @throws ServiceError 404 */
export async function showRound(
  store: Store,
  key: string,
  reference: 'latest' | number,
  locale: string,
): Promise<EndpointResponse<Endpoints['showVisitRound']>> {
  const { round } = await findRound(store, key, reference);
  const visits = await visitsOf(store, round);
  const summary = summaryOf(visits);
  return {
    round: roundResource(round, locale),
    visits: visits.map(visitResource),
    summary,
  };
}

function isOver(state: Visit['state']): boolean {
  return state === 'done' || state === 'failed';
}

/** All that the visits that were made found together. */
export function summaryOf(visits: readonly Visit[]): RoundSummary {
  return summarizeVisits(
    visits
      // A page without some of its snippets is not how things are.
      .filter(({ state, without }) => isOver(state) && without.length === 0)
      .map(({ number, path, script, failure, judged }) => ({
        number,
        path,
        script,
        failure,
        judged: judged ?? [],
      })),
  );
}
