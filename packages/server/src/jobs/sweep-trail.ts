import type { Store } from '../storage/store.js';
import { sweepTrail } from '../storage/sweep-trail.js';
import type { Job } from './job.js';

const EVERY_MS = 6 * 60 * 60_000;

/** Removes what was done longer ago than the trail is to be kept. @param days - 0 keeps it for ever */
export function sweepTrailJob(store: Store, days: number): Job {
  return {
    name: 'sweep-trail',
    everyMs: EVERY_MS,
    async run() {
      if (days > 0) await sweepTrail(store.fork(), days);
    },
  };
}
