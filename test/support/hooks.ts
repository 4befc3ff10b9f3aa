import { expect } from 'chai';
import type { Browser } from 'playwright-core';
import { openConsole, startBrowser, type ConsolePage } from './browser.js';
import { startStage, type Stage } from './stage.js';

export interface StageAndBrowser {
  readonly stage: Stage;
  readonly browser: Browser;
}

/** Registers hooks that start a stage with the demo and a browser before a suite and stop both after it. */
export function useStageAndBrowser(options: Parameters<typeof startStage>[0] = {}): () => StageAndBrowser {
  let started: StageAndBrowser | undefined;
  before(async function () {
    // Browser, service, worker and database share two cores here: what comes late once is tried again. The run names it.
    this.test?.parent?.eachTest((test) => {
      test.retries(1);
    });
    started = { stage: await startStage(options), browser: await startBrowser() };
  });
  after(async () => {
    await started?.browser.close();
    await started?.stage.close();
  });
  return () => started!;
}

/** A stage and a browser as above, and for each test a page of the console about which the browser must not complain. */
export function useConsole(
  options: Parameters<typeof startStage>[0] = {},
): () => StageAndBrowser & ConsolePage {
  const started = useStageAndBrowser(options);
  let open: ConsolePage | undefined;
  beforeEach(async () => {
    open = await openConsole(started().browser, started().stage);
  });
  afterEach(async () => {
    await open?.context.close();
    expect(open?.problems, 'what the browser complained about').to.deep.equal([]);
  });
  return () => ({ ...started(), ...open! });
}
