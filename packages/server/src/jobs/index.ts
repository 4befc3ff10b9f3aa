import type { Store } from '../storage/store.js';
import type { Settings } from '../settings.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import type { Job } from './job.js';
import type { Readers } from '../reading/readers.js';
import { chainTrailJob } from './chain-trail.js';
import { refreshPoliciesJob } from './refresh-policies.js';
import { refreshSummaries } from './refresh-summaries.js';
import { sweepCredentialsJob } from './sweep-credentials.js';
import { sweepTrailJob } from './sweep-trail.js';

/** All that the service does by itself. */
export function createJobs(
  store: Store,
  summaries: SiteSummaries,
  readers: Readers,
  { PRAGMATICA_TRAIL_DAYS: trailDays }: Pick<Settings, 'PRAGMATICA_TRAIL_DAYS'>,
): readonly Job[] {
  return [
    refreshSummaries(store, summaries),
    refreshPoliciesJob(store, readers),
    sweepCredentialsJob(store),
    chainTrailJob(store),
    sweepTrailJob(store, trailDays),
  ];
}
