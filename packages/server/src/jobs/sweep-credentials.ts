import type { Store } from '../storage/store.js';
import { removeExpired } from '../storage/credentials.js';
import { removeOldInvitations } from '../storage/invitations.js';
import type { Job } from './job.js';

const EVERY_MS = 60 * 60_000;

/** Removes sessions, tokens and invitations that have run out. */
export function sweepCredentialsJob(store: Store): Job {
  return {
    name: 'sweep-credentials',
    everyMs: EVERY_MS,
    async run() {
      await removeExpired(store.fork());
      await removeOldInvitations(store.fork());
    },
  };
}
