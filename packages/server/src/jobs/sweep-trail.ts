import type { EntityManager } from '@mikro-orm/postgresql';
import { sweepTrail } from '../storage/sweep-trail.js';
import type { Job } from './job.js';

const EVERY_MS = 6 * 60 * 60_000;

/** Removes what was done longer ago than the trail is to be kept. @param days - 0 keeps it for ever */
export function sweepTrailJob(em: EntityManager, days: number): Job {
  return {
    name: 'sweep-trail',
    everyMs: EVERY_MS,
    async run() {
      if (days > 0) await sweepTrail(em.fork(), days);
    },
  };
}
