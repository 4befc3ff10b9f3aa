import type { Store } from '../storage/store.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import { ageSummaries } from '../storage/site-summaries.js';
import type { Job } from './job.js';

/** Another process may have changed something, or time has. */
const EVERY_MS = 2_000;

/** Keeps what lists say of sites up to date. */
export function refreshSummaries(store: Store, summaries: SiteSummaries): Job {
  let isFirst = true;
  return {
    name: 'refresh-summaries',
    everyMs: EVERY_MS,
    followsChanges: true,
    async run(signal) {
      // Another version of the service may find something else in the same sites.
      if (isFirst) await ageSummaries(store.fork());
      isFirst = false;
      await summaries.refreshStale(store, signal);
    },
  };
}
