import type { EntityManager } from '@mikro-orm/postgresql';
import type { Settings } from '../settings.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import type { Job } from './job.js';
import { refreshSummaries } from './refresh-summaries.js';
import { sweepCredentialsJob } from './sweep-credentials.js';
import { sweepTrailJob } from './sweep-trail.js';

/** All that the service does by itself. */
export function createJobs(
  em: EntityManager,
  summaries: SiteSummaries,
  { PRAGMATICA_TRAIL_DAYS: trailDays }: Pick<Settings, 'PRAGMATICA_TRAIL_DAYS'>,
): readonly Job[] {
  return [refreshSummaries(em, summaries), sweepCredentialsJob(em), sweepTrailJob(em, trailDays)];
}
