import type { Browser } from 'playwright-core';
import { startBrowser } from './browser.js';
import { startStage, type Stage } from './stage.js';

export interface StageAndBrowser {
  readonly stage: Stage;
  readonly browser: Browser;
}

/** Registers hooks that start a stage with the demo and a browser before a suite and stop both after it. */
export function useStageAndBrowser(): () => StageAndBrowser {
  let started: StageAndBrowser | undefined;
  before(async () => {
    started = { stage: await startStage(), browser: await startBrowser() };
  });
  after(async () => {
    await started?.browser.close();
    await started?.stage.close();
  });
  return () => started!;
}
