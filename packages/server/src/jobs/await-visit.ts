import { setTimeout as sleep } from 'node:timers/promises';
import type { LoadEvidence } from '@pragmatica/core';
import type { Store } from '../storage/store.js';
import { roundById, type VisitRound } from '../storage/visit-rounds.js';
import { evidenceOf, visitByNumber, type Visit } from '../storage/visits.js';
import { say } from '../texts/say.js';
import { VISITS_TEXTS, VISIT_PROBLEMS } from '../texts/visits.js';

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

/** What the only visit of a round saw at its end, or in words why it saw nothing that can be judged. */
export async function seenBy(
  store: Store,
  visit: Visit | undefined,
  { state, problem }: VisitRound,
): Promise<{ readonly visit: Visit; readonly load: LoadEvidence } | { readonly failure: string }> {
  if (problem)
    return { failure: say(VISIT_PROBLEMS[problem.id as 'host-gone'], problem.params as { host: string }) };
  if (!visit || state === 'cancelled') return { failure: VISITS_TEXTS.cancelled };
  const evidence = await evidenceOf(store, visit);
  const load = evidence?.loads.at(-1);
  if (!load || load.status === null) return { failure: VISITS_TEXTS[visit.failure ?? 'unreachable'] };
  if (load.status >= 400) return { failure: say(VISITS_TEXTS.pageAnswered, { status: load.status }) };
  if (load.isHung) return { failure: VISITS_TEXTS.hung };
  if (visit.failure !== null) return { failure: VISITS_TEXTS[visit.failure] };
  return { visit, load };
}
