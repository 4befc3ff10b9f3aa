import type { EntityManager } from '@mikro-orm/postgresql';
import { sweepCredentials } from '../auth/accounts.js';
import type { Job } from './job.js';

const EVERY_MS = 60 * 60_000;

/** Removes sessions and tokens that have run out. */
export function sweepCredentialsJob(em: EntityManager): Job {
  return {
    name: 'sweep-credentials',
    everyMs: EVERY_MS,
    async run() {
      await sweepCredentials(em.fork());
    },
  };
}
