import type { Store } from '../storage/store.js';
import { chainForsaken } from '../storage/trail-chain.js';
import type { Job } from './job.js';

const EVERY_MS = 60 * 60_000;

/** Puts entries into the chain that were written before there was one, or by an older version of the service. */
export function chainTrailJob(store: Store): Job {
  return {
    name: 'chain-trail',
    everyMs: EVERY_MS,
    async run() {
      await chainForsaken(store.fork());
    },
  };
}
