import { setTimeout as sleep } from 'node:timers/promises';
import type { VisitRoundEvent } from '@pragmatica/contract';
import { findRound, roundResource, visitResource } from '../site/visits/visit-resource.js';
import type { Store } from '../storage/store.js';
import { visitsOf } from '../storage/visits.js';

export interface WatchVisitsInput {
  readonly site: string;
  readonly round: 'latest' | number;
  readonly locale: string;
}

const EVERY_MS = 300;

/** Tells of each visit once it is over, and how far the round is, until that is over. */
export async function* watchVisits(
  { site, round: reference, locale }: WatchVisitsInput,
  root: Store,
): AsyncGenerator<VisitRoundEvent> {
  const told = new Set<number>();
  let last = '';
  for (;;) {
    const store = root.fork();
    const { round } = await findRound(store, site, reference);
    const { state, planned, done } = round;
    if (done > told.size)
      for (const visit of await visitsOf(store, round))
        if ((visit.state === 'done' || visit.state === 'failed') && !told.has(visit.number)) {
          told.add(visit.number);
          yield { type: 'visit', visit: visitResource(visit) };
        }
    const now = `${state} ${planned} ${done}`;
    if (now !== last) yield { type: 'progress', round: roundResource(round, locale) };
    if (state !== 'waiting' && state !== 'running') return;
    last = now;
    await sleep(EVERY_MS);
  }
}
