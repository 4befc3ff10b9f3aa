import { nextRun } from '@pragmatica/core';
import type { Logger } from 'pino';
import { ServiceError } from '../errors.js';
import { startVisits } from '../site/visits/start-visits.js';
import { hostsOf } from '../storage/hosts.js';
import { dueWatches, moveWatch, type DueWatch } from '../storage/site-watches.js';
import { siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { hasWatchRound } from '../storage/visit-rounds.js';
import type { Job } from './job.js';
import type { JobQueue } from './queue.js';

const EVERY_MS = 5_000;
const AT_ONCE = 50;

/**
 * Begins the visits whose time has come, to the live hosts of a site. What was missed while nobody worked begins once, late; a
 * host whose last visits are still under way is left out.
 */
export function startWatched(store: Store, queue: Pick<JobQueue, 'send'>, log: Logger): Job {
  return {
    name: 'start-watched',
    everyMs: EVERY_MS,
    async run() {
      const due = await store.fork().transactional(async (transaction) => {
        const watches = await dueWatches(transaction, AT_ONCE);
        for (const watch of watches) {
          const next = nextRun(watch.cron!, watch.siteZone, new Date()) ?? null;
          await moveWatch(transaction, watch, watch.siteZone, next);
        }
        return watches.filter(({ isDue }) => isDue);
      });
      for (const watch of due) await start(watch);
    },
  };

  async function start({ siteKey, setBy }: DueWatch): Promise<void> {
    const scope = store.fork();
    const site = await siteByKey(scope, siteKey);
    const hosts = site ? await hostsOf(scope, site) : [];
    for (const { host, environment } of hosts) {
      if (environment !== 'live' || (await hasWatchRound(scope, site!, host))) continue;
      try {
        const round = await startVisits(
          siteKey,
          { environment, host, pages: 'sample', draft: false },
          { store: store.fork(), actor: setBy },
          { watch: { reason: 'schedule', former: null } },
        );
        await queue.send('visits', { round: round.id });
      } catch (error) {
        // Nothing is published there, or the host is the site's no more.
        if (!(error instanceof ServiceError)) throw error;
        log.info({ site: siteKey, host, reason: error.message }, 'planned visits did not begin');
      }
    }
  }
}
