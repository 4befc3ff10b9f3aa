import { setTimeout as sleep } from 'node:timers/promises';
import type { ApiClient } from '@pragmatica/contract';

/** So often it is asked whether something has changed. */
const ASK_EVERY_MS = 1_500;

export interface Watched {
  readonly environment: 'live' | 'staging';
  /** The draft is watched, not what the environment serves. */
  readonly draft: boolean;
}

/**
 * Does something now, and again whenever what is watched has changed and then stayed the same for a moment: somebody who saves three
 * times in a row is done with the third. While the service is away nothing changes.
 *
 * @returns when the signal says so
 */
export async function onChange(
  client: ApiClient,
  site: string,
  watched: Watched,
  work: () => Promise<void>,
  signal: AbortSignal,
): Promise<void> {
  const stateNow = async (): Promise<string | undefined> => {
    try {
      const { etag } = watched.draft
        ? await client.call('showDraft', { params: { site } })
        : await client.call('showEnvironment', { params: { site, environment: watched.environment } });
      return etag;
    } catch {
      return undefined;
    }
  };
  let done = await stateNow();
  await work();
  let before = done;
  while (await pause(signal)) {
    const now = await stateNow();
    const isSettled = now === before;
    before = now ?? before;
    if (now === undefined || now === done || !isSettled) continue;
    done = now;
    await work();
  }
}

/** @returns false when it is over */
async function pause(signal: AbortSignal): Promise<boolean> {
  await sleep(ASK_EVERY_MS, undefined, { signal }).catch(() => undefined);
  return !signal.aborted;
}
