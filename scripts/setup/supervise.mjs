import { say } from './say.mjs';

const FIRST_DELAY_MS = 250;
const MAX_DELAY_MS = 10_000;
/** What ran this long has started well: the next delay is the first again. */
const STEADY_MS = 30_000;

/**
 * Keeps a part running: when it ends by itself it is started again, after a delay that grows as long as it keeps ending.
 * The others go on meanwhile.
 *
 * @template {{ stop: () => Promise<void>, onExit: (listener: () => void) => void }} Part
 * @param {{ title: string, log: string, start: () => Promise<Part>, mayWait?: boolean, again?: (part: Part) => void }} options -
 *   `mayWait`: a first start that fails is tried again like a later one, instead of thrown; `again` is told of each
 *   later one
 * @returns {Promise<{ first: Part | undefined, stop: () => Promise<void> }>}
 */
export async function supervise({ title, log, start, mayWait = false, again }) {
  let part;
  let delay = FIRST_DELAY_MS;
  let isStopping = false;
  let timer;
  let starting;

  const began = (running) => {
    part = running;
    const since = Date.now();
    part.onExit(() => {
      part = undefined;
      if (isStopping) return;
      if (Date.now() - since > STEADY_MS) delay = FIRST_DELAY_MS;
      say(`${title} stopped by itself and is started again. Its log says why: ${log}`);
      later();
    });
  };
  const later = () => {
    timer = setTimeout(() => {
      starting = start()
        .then(
          (running) => {
            began(running);
            say(`${title} runs again.`);
            again?.(running);
          },
          (error) => {
            say(`${title} does not start yet. ${error instanceof Error ? error.message.trim() : error}`);
            if (!isStopping) later();
          },
        )
        .finally(() => (starting = undefined));
    }, delay);
    delay = Math.min(delay * 2, MAX_DELAY_MS);
  };

  try {
    began(await start());
  } catch (error) {
    if (!mayWait) throw error;
    say(`${title} does not start yet. ${error instanceof Error ? error.message.trim() : error}`);
    later();
  }
  return {
    first: part,
    async stop() {
      isStopping = true;
      clearTimeout(timer);
      await starting;
      await part?.stop();
    },
  };
}
