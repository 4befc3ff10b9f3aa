import type { LoadEvidence, StepOutcome, VisitEvidence, VisitFailure, VisitScript } from '@pragmatica/core';
import type { Browser, BrowserContext } from 'playwright-core';
import type { FreshWindow, FreshWindows } from './fresh-windows.js';
import { guardRequests } from './guard-requests.js';
import { finishLoad, type LoadProgress } from './finish-load.js';
import { callInPage } from './in-page.js';
import type { VisitOrder } from './order.js';
import { beginSession } from './page/session.js';
import { shiftClock } from './page/watch.js';
import { Recorder } from './recorder.js';
import { settle } from './settle.js';
import { doStep, type StepTools } from './steps.js';

/** What a visit brings home. Screenshots are JPEG images: WebP is smaller and takes about twice as long. */
export interface Visited {
  readonly evidence: VisitEvidence;
  readonly screenshots: readonly Buffer[];
}

const TIMEOUT_MS = 45_000;
const DAY_MS = 86_400_000;

/**
 * One visit by somebody who has never been here: a profile of its own, thrown away afterwards. A page that hangs costs only
 * its visit; a browser that crashes ends it.
 */
export async function visit(windows: FreshWindows, order: VisitOrder): Promise<Visited> {
  const startedAt = Date.now();
  const began = performance.now();
  const { script, timeoutMs = TIMEOUT_MS + waitedMs(script) } = order;
  const steps: StepOutcome[] = [];
  const loads: LoadEvidence[] = [];
  const screenshots: Buffer[] = [];
  let failure: VisitFailure | null = null;
  const { browser } = windows;
  const window = await windows.take(script);
  const { context } = window;
  const deadline = AbortSignal.timeout(timeoutMs);
  const crash = crashOf(browser);
  try {
    const run = walk(window, order, { steps, loads, screenshots, signal: deadline });
    // What goes on after the time is up has nobody to tell any more.
    run.catch(() => undefined);
    await Promise.race([run, ended(deadline), crash.crashed]);
  } catch (error) {
    failure =
      !browser.isConnected() || isCrash(error) ? 'crashed' : deadline.aborted ? 'timeout' : 'unreachable';
    if (failure === 'unreachable' && loads.length === 0 && !isNavigation(error)) throw error;
  } finally {
    crash.stop();
    // Nobody has to wait until everything of it is thrown away.
    context.close().catch(() => undefined);
  }
  return {
    evidence: {
      format: 'pragmatica-visit/1',
      script,
      browser: `Chromium ${browser.version()}`,
      startedAt,
      durationMs: Math.round(performance.now() - began),
      failure,
      steps,
      loads,
    },
    screenshots,
  };
}

/** What the visitor waits on purpose. */
function waitedMs({ steps }: VisitScript): number {
  return steps.reduce((sum, step) => sum + (step.do === 'wait' ? step.seconds * 1_000 : 0), 0);
}

function isCrash(error: unknown): boolean {
  return error instanceof Error && /crash|Target closed|has been closed/i.test(error.message);
}

function isNavigation(error: unknown): boolean {
  return error instanceof Error && /net::|navigation|Navigation/.test(error.message);
}

function ended(signal: AbortSignal): Promise<never> {
  return new Promise((_, reject) => {
    signal.addEventListener('abort', () => reject(new Error('time is up')));
  });
}

/** Rejects when the browser is gone. */
function crashOf(browser: Browser): { readonly crashed: Promise<never>; readonly stop: () => void } {
  let stop = (): void => undefined;
  const crashed = new Promise<never>((_, reject) => {
    const gone = (): void => reject(new Error('The browser crashed.'));
    browser.once('disconnected', gone);
    stop = () => browser.off('disconnected', gone);
  });
  crashed.catch(() => undefined);
  return { crashed, stop };
}

/** What the visitor brings along. */
async function giveCookies(
  context: BrowserContext,
  { script, address, access, consentCookies }: VisitOrder,
): Promise<void> {
  const cookie = access?.['cookie'];
  if (cookie !== undefined)
    await context.addCookies(
      cookie.split(/;\s*/).map((pair) => {
        const at = pair.indexOf('=');
        return { name: pair.slice(0, at), value: pair.slice(at + 1), url: address };
      }),
    );
  const agreed = script.hasAgreed === true ? consentCookies?.accept : undefined;
  if (agreed) await context.addCookies([{ ...agreed, url: address }]);
}

interface Collected {
  readonly steps: StepOutcome[];
  readonly loads: LoadEvidence[];
  readonly screenshots: Buffer[];
  readonly signal: AbortSignal;
}

async function walk(window: FreshWindow, order: VisitOrder, collected: Collected): Promise<void> {
  const { context, page } = window;
  context.on('page', (other) => {
    if (other !== page) void other.close().catch(() => undefined);
  });
  page.on('dialog', (dialog) => void dialog.dismiss().catch(() => undefined));
  const crash = new Promise<never>((_, reject) => {
    page.on('crash', () => reject(new Error('The page crashed.')));
  });
  crash.catch(() => undefined);
  await Promise.race([walkPage(window, order, collected), crash]);
}

async function walkPage(
  { context, page, session, mainFrame, token }: FreshWindow,
  order: VisitOrder,
  { steps, loads, screenshots, signal }: Collected,
): Promise<void> {
  const { script } = order;
  const recorder = new Recorder(session, token, mainFrame, order.access);
  recorder.start();
  await Promise.all([
    giveCookies(context, order),
    guardRequests(session, mainFrame, order, {
      size: (request, bytes) => recorder.sizes.set(request, bytes),
      standIn: (request) => recorder.markStandIn(request),
    }),
    script.clock !== undefined &&
      page.addInitScript({ content: callInPage(shiftClock, script.clock - Date.now()) }),
  ]);

  const hasAgreed = script.hasAgreed === true && order.consentCookies?.accept !== undefined;
  let progress = freshProgress('first', 0, hasAgreed ? 'accept' : undefined);
  let returns = 0;
  const began = performance.now();
  const close = async (): Promise<void> => {
    const record = recorder.current;
    if (!record || loads.length === recorder.loads.length) return;
    const finished = await finishLoad({ page, session, recorder, record, order, progress });
    const at = finished.screenshot === undefined ? undefined : screenshots.push(finished.screenshot) - 1;
    // Page loads that came between, by a redirect of a script, were over before anybody could look.
    for (const earlier of recorder.loads.slice(loads.length, -1))
      loads.push({ ...(await finishLoad({ session, recorder, record: earlier, order, progress })).load });
    loads.push({ ...finished.load, ...(at === undefined ? {} : { screenshot: at }) });
  };
  const tools: StepTools = {
    page,
    session,
    mainFrame,
    order,
    progress: () => progress,
    async open(path) {
      const count = recorder.loads.length;
      await page
        .goto(order.address + path, { waitUntil: 'commit', timeout: 20_000 })
        .catch((error: unknown) => {
          // A page that does not answer is what we wanted to know.
          if (recorder.loads.length === count) throw error;
        });
      await settle(session, recorder, token, signal);
    },
    settle: () => settle(session, recorder, token, signal),
  };
  for (const [index, step] of script.steps.entries()) {
    signal.throwIfAborted();
    if (step.do === 'open' || step.do === 'return') await close();
    if (step.do === 'return') {
      await page.goto('about:blank');
      // Somebody who comes back has closed the window: what is kept for a session is gone, and time has gone by.
      await page.addInitScript({ content: callInPage(shiftClock, step.days * DAY_MS) });
      returns += 1;
      await page.addInitScript({ content: callInPage(beginSession, returns) });
    }
    if (step.do === 'open' || step.do === 'return')
      progress = freshProgress(
        step.do === 'return' ? 'returning' : progress.visitor,
        progress.day + (step.do === 'return' ? step.days : 0),
        progress.answer?.choice,
      );
    const outcome = await doStep(step, tools);
    steps.push({ step: index, atMs: Math.round(performance.now() - began), ...outcome });
  }
  await close();
}

function freshProgress(
  visitor: LoadProgress['visitor'],
  day: number,
  said?: 'accept' | 'refuse',
): LoadProgress {
  const answer = said && { choice: said };
  return { visitor, day, answer, seconds: 0, scrolled: 0, hasLeft: false, openedAt: performance.now() };
}
