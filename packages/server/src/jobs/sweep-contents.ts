import type { Store } from '../storage/store.js';
import { sweepGivenPages } from '../storage/given-pages.js';
import { sweepContents } from '../storage/sweep-contents.js';
import type { Job } from './job.js';

const EVERY_MS = 6 * 60 * 60_000;
/** Pages that were handed over are read at once, as a rule. */
const GIVEN_MS = 24 * 60 * 60_000;

/** Removes what surveys that are no longer kept had seen, and no other has. */
export function sweepContentsJob(store: Store): Job {
  return {
    name: 'sweep-contents',
    everyMs: EVERY_MS,
    async run() {
      await sweepGivenPages(store.fork(), GIVEN_MS);
      await sweepContents(store.fork());
    },
  };
}
