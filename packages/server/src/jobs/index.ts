import type { EntityManager } from '@mikro-orm/postgresql';
import type { SiteSummaries } from '../site/site-summaries.js';
import type { Job } from './job.js';
import { refreshSummaries } from './refresh-summaries.js';
import { sweepCredentialsJob } from './sweep-credentials.js';

/** All that the service does by itself. */
export function createJobs(em: EntityManager, summaries: SiteSummaries): readonly Job[] {
  return [refreshSummaries(em, summaries), sweepCredentialsJob(em)];
}
