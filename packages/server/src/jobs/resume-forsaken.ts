import type { Store } from '../storage/store.js';
import { forsakenSurveys } from '../storage/surveys.js';
import { forsakenRounds } from '../storage/visit-rounds.js';
import type { Job } from './job.js';
import type { JobQueue } from './queue.js';

const EVERY_MS = 3_000;
/** A worker beats every other second; one that has not for so long is dead, or its machine is away. */
const SILENT_MS = 10_000;
/** A line that is longer than this is none. */
const LOST_MS = 10 * 60_000;

/** Takes up surveys and rounds of visits whose workers were killed. */
export function resumeForsaken(store: Store, queue: JobQueue): Job {
  return {
    name: 'resume-forsaken',
    everyMs: EVERY_MS,
    async run() {
      for (const survey of await forsakenSurveys(store.fork(), SILENT_MS))
        await queue.send('survey', { survey });
      for (const round of await forsakenRounds(store.fork(), SILENT_MS, LOST_MS))
        await queue.send('visits', { round });
    },
  };
}
