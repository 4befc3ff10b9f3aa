import { setTimeout as sleep } from 'node:timers/promises';
import type { Store } from '../storage/store.js';
import { roundById, type VisitRound } from '../storage/visit-rounds.js';
import { visitByNumber, type Visit } from '../storage/visits.js';

const EVERY_MS = 120;

/** Waits until the only visit of a round has been made, or the round is over without it. */
export async function awaitVisit(
  root: Store,
  { id }: VisitRound,
): Promise<{ readonly visit: Visit | undefined; readonly ended: VisitRound }> {
  for (;;) {
    const store = root.fork();
    const ended = await roundById(store, id);
    const visit = ended && (await visitByNumber(store, ended, 1));
    const isMade = visit?.state === 'done' || visit?.state === 'failed';
    if (ended && (isMade || (ended.state !== 'waiting' && ended.state !== 'running')))
      return { visit, ended };
    await sleep(EVERY_MS);
  }
}
