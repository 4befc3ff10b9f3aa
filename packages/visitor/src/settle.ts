import { setTimeout as sleep } from 'node:timers/promises';
import type { CDPSession } from 'playwright-core';
import type { Recorder } from './recorder.js';
import { within } from './within.js';

const STEP_MS = 20;
const QUIET_MS = 400;
/** What a page does right after it is loaded is awaited at least so long. */
const LEAST_MS = 400;
/** What has not come by then is slow, whatever it is. */
const LOAD_MS = 10_000;
const MOST_MS = 7_000;
const ANSWER_MS = 1_500;
/** A page that goes elsewhere again and again never comes to rest. */
const MOST_LOADS = 6;

/**
 * Waits until a page has come to rest: it is loaded, asks for nothing, moves nothing, and no timer of it is about to do something. Pages that
 * never rest are left after a while.
 */
export async function settle(
  session: CDPSession,
  recorder: Recorder,
  token: string,
  signal: AbortSignal,
): Promise<void> {
  const began = performance.now();
  const elapsed = (): number => performance.now() - began;
  while (recorder.current?.loadedMs === undefined && elapsed() < LOAD_MS) await step(signal);
  const loaded = performance.now();
  const since = (): number => performance.now() - loaded;
  while (since() < MOST_MS && recorder.loads.length < MOST_LOADS) {
    const load = recorder.current;
    const isQuiet =
      !load || (load.openFor(MOST_MS) === 0 && performance.now() - load.lastActivity > QUIET_MS);
    if (since() > LEAST_MS && isQuiet && (await underWay(session, token)) === 0) return;
    await step(signal);
  }
}

async function step(signal: AbortSignal): Promise<void> {
  signal.throwIfAborted();
  await sleep(STEP_MS);
}

/** How many timers and animations a page waits for. */
async function underWay(session: CDPSession, token: string): Promise<number> {
  const names = JSON.stringify(token);
  const answer = await within(
    ANSWER_MS,
    session.send('Runtime.evaluate', {
      expression: `((own) => own && own.timers() + own.moves())(globalThis[Symbol.for(${names})])`,
      returnByValue: true,
    }),
  );
  return answer === undefined ? 0 : Number(answer.result.value) || 0;
}
