import type { Readers } from '../reading/readers.js';
import { refreshPolicies } from '../site/content-policy.js';
import type { Store } from '../storage/store.js';
import type { Job } from './job.js';

/** Another process may have published something. */
const EVERY_MS = 2_000;

/** Keeps the content policies that gateways send in step with what is published. */
export function refreshPoliciesJob(store: Store, readers: Readers): Job {
  return {
    name: 'refresh-policies',
    everyMs: EVERY_MS,
    followsChanges: true,
    async run() {
      await refreshPolicies(store.fork(), readers);
    },
  };
}
