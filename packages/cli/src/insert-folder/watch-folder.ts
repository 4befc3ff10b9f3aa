import { watch } from 'node:fs';

/** Changes come in bursts: so long after the last one it begins. */
const QUIET_MS = 150;

/**
 * Does something anew whenever something in a folder has changed, until the signal.
 *
 * @param again - also called when `others` says so
 */
export function watchFolder(
  folder: string,
  again: () => void | Promise<void>,
  signal: AbortSignal,
): Promise<void> {
  return new Promise((resolve) => {
    let timer: NodeJS.Timeout | undefined;
    let running: Promise<void> = Promise.resolve();
    const watcher = watch(folder, { recursive: true }, () => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        running = running.then(again);
      }, QUIET_MS);
    });
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      watcher.close();
      void running.then(resolve);
    });
  });
}
