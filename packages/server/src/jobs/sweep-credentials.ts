import type { Store } from '../storage/store.js';
import { removeExpired } from '../storage/credentials.js';
import type { Job } from './job.js';

const EVERY_MS = 60 * 60_000;

/** Removes sessions and tokens that have run out. */
export function sweepCredentialsJob(store: Store): Job {
  return {
    name: 'sweep-credentials',
    everyMs: EVERY_MS,
    async run() {
      await removeExpired(store.fork());
    },
  };
}
