import { setTimeout as sleep } from 'node:timers/promises';
import {
  MAX_CONTROLS,
  type ConsentAnswer,
  type LoadEvidence,
  type SeenElement,
  type SeenRequest,
  type Stack,
} from '@pragmatica/core';
import type { CDPSession, Page } from 'playwright-core';
import { callInPage, inPage } from './in-page.js';
import { Makers, type MadeElement } from './makers.js';
import type { VisitOrder } from './order.js';
import { boxesOf } from './page/boxes.js';
import { sayGoodbye } from './page/goodbye.js';
import { lookAtPage, readTimings, type LookWish, type PageLook } from './page/look.js';
import type { Protocol } from './protocol.js';
import type { LoadRecord, Recorder } from './recorder.js';
import { within } from './within.js';

/** What the steps of a visit have done to a page so far. */
export interface LoadProgress {
  readonly visitor: 'first' | 'returning';
  /** By the browser's clock, since the first page load. */
  readonly day: number;
  readonly openedAt: number;
  seconds: number;
  scrolled: number;
  hasLeft: boolean;
  /** What was said to the consent banner, and when: milliseconds since 1970, undefined for an earlier page load. */
  answer: { readonly choice: ConsentAnswer['choice']; readonly at?: number } | undefined;
}

export interface LoadToFinish {
  readonly session: CDPSession;
  readonly recorder: Recorder;
  readonly record: LoadRecord;
  readonly order: VisitOrder;
  readonly progress: LoadProgress;
  /** Left out for a page load that is over: there is nothing to look at any more. */
  readonly page?: Page;
}

export interface FinishedLoad {
  readonly load: LoadEvidence;
  readonly screenshot?: Buffer;
}

const ANSWER_MS = 4_000;
const MAX_DOM = 1_500_000;
const MAX_GLOBALS = 500;
const MAX_ELEMENTS = 120;
const SCREENSHOT_QUALITY = 60;
/** Of a picture of a whole page, in pixels. */
const MAX_PICTURE_HEIGHT = 6_000;
const LEAVE_MS = 2_000;
/** Beacons that are sent on leaving are answered within this, or not waited for. */
const LAST_WORDS_MS = 400;
const LAST_WORDS_STEP_MS = 20;
const NO_SIZE = { width: 0, height: 0 };

/** Writes down a page load: what was kept as it happened, and a last look at the page. */
export async function finishLoad(work: LoadToFinish): Promise<FinishedLoad> {
  const { record, progress, page } = work;
  const endMs = Math.round(performance.now() - progress.openedAt);
  await within(ANSWER_MS, Promise.all(record.pending));
  const seen = page === undefined ? undefined : await look(work);
  // What is sent on leaving may be answered when nobody listens any more.
  const unanswered = new Set<SeenRequest>([...record.requests.values()].filter(isOpen));
  if (seen) await leavePage(work.session, record);
  const requests = [...record.requests.values()].map((request) =>
    unanswered.has(request) ? unansweredOf(request) : request,
  );
  const load: LoadEvidence = {
    url: record.url,
    finalUrl: record.finalUrl,
    status: record.status,
    startedAt: record.startedAt,
    cookies: record.cookies,
    html: record.html,
    headers: record.headers,
    dom: seen?.dom ?? '',
    ...(record.readyMs === undefined ? {} : { readyMs: record.readyMs }),
    ...(record.loadedMs === undefined ? {} : { loadedMs: record.loadedMs }),
    endMs,
    scripts: [...record.scripts.values()],
    requests,
    exceptions: record.exceptions,
    console: record.console,
    violations: record.violations,
    globals: seen?.globals ?? [],
    elements: seen?.elements ?? [],
    tags: seen?.tags ?? [],
    covered: seen?.covered ?? [],
    controls: seen?.controls ?? [],
    writes: record.writes,
    longTasks: seen?.longTasks ?? [],
    shifts: seen?.shifts ?? [],
    readable: seen?.readable ?? 0,
    size: seen?.size ?? NO_SIZE,
    ...(seen?.boxes === undefined ? {} : { boxes: seen.boxes }),
    window: seen?.window ?? NO_SIZE,
    isHung: page !== undefined && seen === undefined,
    seconds: Math.max(progress.seconds, endMs / 1_000),
    scrolled: Math.max(progress.scrolled, seen?.scrolled ?? 0),
    hasLeft: progress.hasLeft,
    visitor: progress.visitor,
    ...(progress.day === 0 ? {} : { day: progress.day }),
    ...(progress.answer === undefined ? {} : { answer: answerOf(progress.answer, record) }),
    views: record.views,
  };
  return { load, ...(seen?.screenshot === undefined ? {} : { screenshot: seen.screenshot }) };
}

/** Asked for, and not there yet. */
function isOpen({ endMs, kind, failure }: SeenRequest): boolean {
  return endMs === undefined && kind !== 'socket' && failure === undefined;
}

function unansweredOf({ endMs: _, error: __, ...request }: SeenRequest): SeenRequest {
  return { ...request, failure: 'unanswered' };
}

/** Lets the page know that the visitor goes, as every visitor does in the end: what counts visits may tell only then. */
async function leavePage(session: CDPSession, record: LoadRecord): Promise<void> {
  await within(
    LEAVE_MS,
    session.send('Runtime.evaluate', { expression: callInPage(sayGoodbye), awaitPromise: true }),
  );
  const until = performance.now() + LAST_WORDS_MS;
  while (performance.now() < until && record.openFor(LAST_WORDS_MS) > 0) await sleep(LAST_WORDS_STEP_MS);
}

function answerOf(
  { choice, at }: NonNullable<LoadProgress['answer']>,
  { startedAt }: LoadRecord,
): ConsentAnswer {
  return at === undefined || at < startedAt ? { choice } : { choice, atMs: at - startedAt };
}

type Seen = Pick<
  LoadEvidence,
  | 'dom'
  | 'globals'
  | 'elements'
  | 'tags'
  | 'covered'
  | 'controls'
  | 'longTasks'
  | 'shifts'
  | 'readable'
  | 'size'
  | 'boxes'
  | 'window'
  | 'scrolled'
> & {
  readonly screenshot?: Buffer;
};

/** Undefined where the page does not answer. */
async function look(work: LoadToFinish): Promise<Seen | undefined> {
  const { session, order } = work;
  const world = await within(
    ANSWER_MS,
    session.send('Page.createIsolatedWorld', { frameId: work.recorder.mainFrame, worldName: 'pragmatica' }),
  );
  if (!world) return undefined;
  const contextId = world.executionContextId;
  const read = async <T>(expression: string): Promise<T | undefined> => {
    const answer = await within(
      ANSWER_MS,
      session.send('Runtime.evaluate', { contextId, expression, returnByValue: true, awaitPromise: true }),
    );
    return answer && !answer.exceptionDetails ? (answer.result.value as T) : undefined;
  };
  // Asked first: what we do to the page afterwards is not the page's work.
  const timings = read<Awaited<ReturnType<typeof readTimings>>>(callInPage(readTimings));
  const dom = await read<string>('document.documentElement ? document.documentElement.outerHTML : ""');
  if (dom === undefined) return undefined;
  const boxes =
    order.boxesOf === undefined
      ? undefined
      : await read<ReturnType<typeof boxesOf>>(callInPage(boxesOf, order.boxesOf));
  const makers = new Makers(session, work.recorder);
  const [{ longTasks = [], shifts = [] } = {}, screenshot, { made, tags }, globals] = await Promise.all([
    timings,
    order.noScreenshot === true ? undefined : shoot(session, order.boxesOf !== undefined),
    makers.madeElements(work.record.html, contextId),
    globalsOf(work),
  ]);
  // It scrolls, so it comes after the picture.
  const looked = await lookWith(work, contextId, made, makers);
  return {
    dom: dom.slice(0, MAX_DOM),
    ...(screenshot === undefined ? {} : { screenshot }),
    ...(boxes === undefined ? {} : { boxes }),
    globals,
    elements: looked?.elements ?? [],
    tags,
    covered: looked?.covered ?? [],
    controls: looked?.controls ?? [],
    longTasks,
    shifts,
    readable: looked?.readable ?? 0,
    size: looked?.size ?? NO_SIZE,
    window: looked?.window ?? NO_SIZE,
    scrolled: looked?.scrolled ?? 0,
  };
}

/** Names that the page's scripts have made. */
async function globalsOf({ session, recorder }: LoadToFinish): Promise<readonly string[]> {
  const [own, lexical] = await Promise.all([
    within(
      ANSWER_MS,
      session.send('Runtime.evaluate', {
        expression: `globalThis[Symbol.for(${JSON.stringify(recorder.token)})]?.globals()`,
        returnByValue: true,
      }),
    ),
    // `let`, `const` and `class` make no properties of the window.
    within(ANSWER_MS, session.send('Runtime.globalLexicalScopeNames', {})),
  ]);
  const names = [...((own?.result.value as string[] | undefined) ?? []), ...(lexical?.names ?? [])];
  return names.slice(0, MAX_GLOBALS);
}

async function shoot(session: CDPSession, isWhole: boolean): Promise<Buffer | undefined> {
  const clip = isWhole ? await wholePage(session) : undefined;
  const shot = await within(
    ANSWER_MS,
    session.send('Page.captureScreenshot', {
      format: 'jpeg',
      quality: SCREENSHOT_QUALITY,
      optimizeForSpeed: true,
      ...(clip ? { captureBeyondViewport: true, clip } : {}),
    }),
  );
  return shot && Buffer.from(shot.data, 'base64');
}

/** The page from its top, as far down as pictures go. */
async function wholePage(session: CDPSession): Promise<Protocol.Page.Viewport | undefined> {
  const metrics = await within(ANSWER_MS, session.send('Page.getLayoutMetrics'));
  if (!metrics) return undefined;
  const { width, height } = metrics.cssContentSize;
  return { x: 0, y: 0, width, height: Math.min(height, MAX_PICTURE_HEIGHT), scale: 1 };
}

interface Looked extends Omit<PageLook, 'elements' | 'madeAt'> {
  readonly elements: readonly SeenElement[];
}

async function lookWith(
  { session, order }: LoadToFinish,
  contextId: number,
  made: readonly MadeElement[],
  makers: Makers,
): Promise<Looked | undefined> {
  const wish: LookWish = { probes: order.probes ?? [], maxControls: MAX_CONTROLS };
  const answer = await within(
    ANSWER_MS,
    session.send('Runtime.callFunctionOn', {
      executionContextId: contextId,
      functionDeclaration: inPage(lookAtPage),
      arguments: [{ value: wish }, ...made.map(({ objectId }) => ({ objectId }))],
      returnByValue: true,
    }),
  );
  const looked = answer?.exceptionDetails ? undefined : (answer?.result.value as PageLook | undefined);
  if (!looked) return undefined;
  const elements = looked.elements.slice(0, MAX_ELEMENTS);
  const known = new Map<number, Stack>();
  for (const [index, { stack }] of made.entries()) {
    const at = looked.madeAt[index] ?? -1;
    if (at >= 0 && at < elements.length) known.set(at, stack);
  }
  const stacks = await makers.stacksOfSeen(contextId, elements.length, known);
  return {
    ...looked,
    elements: elements.map((element, index) => ({ ...element, stack: stacks.get(index) ?? [] })),
  };
}
