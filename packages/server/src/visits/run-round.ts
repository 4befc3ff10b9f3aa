import { setTimeout as sleep } from 'node:timers/promises';
import { NoBrowserError } from '@pragmatica/visitor';
import type { Store } from '../storage/store.js';
import { beatRound, endRound, type VisitRound } from '../storage/visit-rounds.js';
import { hasVisitsUnderWay, returnVisit, saveVisit, takeVisit, type Visit } from '../storage/visits.js';
import { visitOnce, type VisitGround } from './one-visit.js';
import type { VisitTools } from './visiting.js';

/** Visits at once: more are no faster on the processors that one browser has. */
const LANES = 2;
/** What one visit keeps the processor from must not be counted as another's. */
const LANES_TO_WEIGH = 1;
const BEAT_MS = 2_000;
/** A visit whose browser crashed is tried so often in all. */
const ATTEMPTS = 3;
/** A visit that nobody has come back from for so long is taken again. */
const SILENT_MS = 120_000;
const OTHERS_MS = 500;

/**
 * Makes the visits of a round that are not made yet, several at once. Other workers may do the same: what somebody has taken nobody
 * else takes.
 *
 * @param stop - gives back what is under way
 */
export async function runRound(
  root: Store,
  round: VisitRound,
  ground: VisitGround,
  tools: VisitTools,
  stop: AbortSignal,
): Promise<void> {
  await whileWorking(root, round, tools, stop, async (signal) => {
    for (;;) {
      const lanes = round.options.weigh ? LANES_TO_WEIGH : LANES;
      await Promise.all(Array.from({ length: lanes }, () => lane(root, round, ground, tools, signal)));
      // What another worker has taken is waited for, or taken up when it never comes back.
      if (signal.aborted || !(await hasVisitsUnderWay(root.fork(), round))) return;
      await sleep(OTHERS_MS, undefined, { signal });
    }
  });
}

/** Says that somebody works on a round for as long as that is so, and ends it afterwards. */
export async function whileWorking(
  root: Store,
  round: VisitRound,
  tools: VisitTools,
  stop: AbortSignal,
  work: (signal: AbortSignal) => Promise<void>,
): Promise<void> {
  const over = new AbortController();
  const signal = AbortSignal.any([stop, over.signal]);
  let browser: string | null = null;
  const beat = setInterval(() => {
    beatRound(root.fork(), round.id, browser).then(
      (state) => {
        if (state !== 'running') over.abort();
      },
      () => undefined,
    );
  }, BEAT_MS);
  try {
    browser = (await tools.pool.describe()).name;
    await beatRound(root.fork(), round.id, browser);
    await work(signal);
  } catch (error) {
    // Whoever called it off knows why.
    if (signal.aborted) return;
    if (!(error instanceof NoBrowserError)) throw error;
    await endRound(root.fork(), round.id, 'failed', { id: 'no-browser', params: { problem: error.message } });
    return;
  } finally {
    clearInterval(beat);
  }
  if (!signal.aborted) await endRound(root.fork(), round.id, 'done');
}

async function lane(
  root: Store,
  round: VisitRound,
  ground: VisitGround,
  tools: VisitTools,
  signal: AbortSignal,
): Promise<void> {
  for (;;) {
    if (signal.aborted) return;
    const visit = await takeVisit(root.fork(), round, ATTEMPTS, SILENT_MS);
    if (!visit) return;
    await make(root, visit, round, ground, tools);
  }
}

async function make(
  root: Store,
  visit: Visit,
  { options }: VisitRound,
  ground: VisitGround,
  tools: VisitTools,
): Promise<void> {
  const { script, without, attempts } = visit;
  try {
    const { weigh = false } = options;
    const wish = { script, without, weighs: weigh };
    const { evidence, judged, screenshots } = await visitOnce(ground, wish, tools);
    if (evidence.failure === 'crashed' && attempts < ATTEMPTS)
      await returnVisit(root.fork(), visit, ATTEMPTS);
    else await saveVisit(root.fork(), visit, { evidence, judged, screenshots });
  } catch (error) {
    if (error instanceof NoBrowserError) throw error;
    tools.log.warn({ err: error, visit: visit.id }, 'a visit was broken off');
    await returnVisit(root.fork(), visit, ATTEMPTS);
  }
}
