import { setTimeout as sleep } from 'node:timers/promises';
import type { StepOutcome, VisitStep } from '@pragmatica/core';
import type { CDPSession, Page } from 'playwright-core';
import { ABOUT_CONSENT, NO_WORDS, YES_WORDS } from './consent-words.js';
import type { LoadProgress } from './finish-load.js';
import { callInPage } from './in-page.js';
import type { VisitOrder } from './order.js';
import { findConsentButton } from './page/consent-buttons.js';
import { within } from './within.js';

export interface StepTools {
  readonly page: Page;
  readonly session: CDPSession;
  readonly mainFrame: string;
  readonly order: VisitOrder;
  readonly progress: () => LoadProgress;
  /** Opens a page of the host, and waits until it has come to rest. */
  open(path: string): Promise<void>;
  settle(): Promise<void>;
}

type Outcome = Omit<StepOutcome, 'step' | 'atMs'>;

const CLICK_MS = 3_000;
/** A banner may come a moment after the page. */
const BANNER_MS = 3_000;
const BANNER_STEP_MS = 250;
const SCROLL_STEP_MS = 60;

/** Does one step of a visit. What cannot be done is said, and the visit goes on. */
export async function doStep(step: VisitStep, tools: StepTools): Promise<Outcome> {
  const { page, progress } = tools;
  switch (step.do) {
    case 'open':
    case 'return':
      await tools.open(step.path);
      return { isDone: true };
    case 'wait': {
      // The time that the page took to come to rest counts.
      const left = step.seconds * 1_000 - (performance.now() - progress().openedAt);
      if (left > 0) await sleep(left);
      await tools.settle();
      progress().seconds = Math.max(progress().seconds, step.seconds);
      return { isDone: true };
    }
    case 'scroll':
      await scroll(page, step.percent);
      await tools.settle();
      progress().scrolled = Math.max(progress().scrolled, step.percent);
      return { isDone: true };
    case 'leave':
      await leave(page);
      await tools.settle();
      progress().hasLeft = true;
      return { isDone: true };
    case 'consent':
      return answerBanner(step.choice, tools);
    case 'click':
      try {
        await page.click(step.selector, { timeout: CLICK_MS });
        await tools.settle();
        return { isDone: true };
      } catch {
        return { isDone: false, note: step.selector };
      }
    case 'move-on':
      return moveOn(step.path, tools);
  }
}

async function scroll(page: Page, percent: number): Promise<void> {
  for (let share = 10; share <= percent; share += 10) {
    await within(
      1_000,
      page.evaluate((part) => {
        const { scrollHeight } = document.documentElement;
        scrollTo({ top: (scrollHeight * part) / 100 - innerHeight, behavior: 'instant' });
      }, share),
    );
    await sleep(SCROLL_STEP_MS);
  }
}

async function leave(page: Page): Promise<void> {
  const { width } = page.viewportSize() ?? { width: 800 };
  await page.mouse.move(width / 2, 200);
  await page.mouse.move(width / 2, 20, { steps: 5 });
  await page.mouse.move(width / 2, 1);
  // The window's edge is where a browser without a window ends: leaving it has to be said.
  await within(
    1_000,
    page.evaluate((x) => {
      for (const [type, bubbles] of [
        ['mouseout', true],
        ['mouseleave', false],
      ] as const)
        document.documentElement.dispatchEvent(
          new MouseEvent(type, { bubbles, clientX: x, clientY: -1, relatedTarget: null }),
        );
    }, width / 2),
  );
}

async function answerBanner(choice: 'accept' | 'refuse', tools: StepTools): Promise<Outcome> {
  const { page, session, order } = tools;
  const until = performance.now() + BANNER_MS;
  let covered: string | null | undefined;
  for (;;) {
    const world = await within(2_000, session.send('Page.createIsolatedWorld', { frameId: tools.mainFrame }));
    if (!world) break;
    const found = await within(
      2_000,
      session.send('Runtime.evaluate', {
        contextId: world.executionContextId,
        expression: callInPage(findConsentButton, choice, YES_WORDS, NO_WORDS, ABOUT_CONSENT),
        returnByValue: true,
      }),
    );
    const button = found?.result.value as ReturnType<typeof findConsentButton> | undefined;
    if (button && button.coveredBy === null) {
      sayAnswer(choice, tools);
      await page.mouse.click(button.x, button.y);
      await tools.settle();
      return { isDone: true, note: button.text };
    }
    covered = button && `${button.text}: ${button.coveredBy}`;
    if (performance.now() > until) break;
    await sleep(BANNER_STEP_MS);
  }
  // A person would give up here, or find a way; the rest of the visit is worth having.
  const cookie = order.consentCookies?.[choice];
  if (cookie) {
    await page.context().addCookies([{ ...cookie, url: order.address }]);
    sayAnswer(choice, tools);
  }
  return { isDone: false, ...(covered ? { note: covered } : {}) };
}

function sayAnswer(choice: 'accept' | 'refuse', { progress }: StepTools): void {
  progress().answer = { choice, at: Date.now() };
}

/** By a link of the page where it has one, or else as the application would: the address changes, and it is told. */
async function moveOn(path: string, tools: StepTools): Promise<Outcome> {
  const { page } = tools;
  const link = page.locator(`a[href="${path.replaceAll('"', '\\"')}"]`).first();
  try {
    if ((await link.count()) > 0) await link.click({ timeout: CLICK_MS });
    else
      await page.evaluate((to) => {
        history.pushState({}, '', to);
        dispatchEvent(new PopStateEvent('popstate', { state: {} }));
      }, path);
  } catch {
    return { isDone: false, note: path };
  }
  await tools.settle();
  return { isDone: true };
}
