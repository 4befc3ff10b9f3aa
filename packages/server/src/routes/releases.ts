import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { JobQueue } from '../jobs/queue.js';
import { restoreRelease, showEnvironment } from '../site/environments.js';
import { publishSeen } from '../site/publish-seen.js';
import { listReleases, showDiff, showRelease } from '../site/releases.js';
import type { SeenDrafts } from '../site/seen-drafts.js';
import type { SiteTools } from '../site/use-case.js';

/** Seconds that a release has to reach all who serve it before it is looked at. */
const SETTLE_S = 3;

export function releaseHandlers(
  tools: SiteTools,
  seenDrafts: SeenDrafts,
  queue: Pick<JobQueue, 'send'>,
): HandlersOf<
  'listReleases' | 'publish' | 'showRelease' | 'showEnvironment' | 'restoreRelease' | 'showDiff'
> {
  const { sets } = tools;
  return {
    async listReleases({ params, query: { limit, after } }, { store }) {
      const listing = { limit, after: numberPosition(after) };
      return { data: await listReleases(store, params.site, listing) };
    },

    async publish({ params, body }, context) {
      const request = { ...body, ifMatch: context.ifMatch };
      const { published, rounds } = await publishSeen(
        { ...tools, seenDrafts },
        params.site,
        request,
        context,
      );
      for (const round of rounds) await queue.send('visits', { round }, SETTLE_S);
      return {
        ...published,
        location: `/api/v1/sites/${params.site}/releases/${published.data.number}`,
      };
    },

    async showRelease({ params }, { store }) {
      return showRelease(sets, store, params.site, params.release);
    },

    async showEnvironment({ params }, { store }) {
      return showEnvironment(store, params.site, params.environment);
    },

    async restoreRelease({ params, body }, context) {
      const { site, environment } = params;
      const { restored, rounds } = await restoreRelease(
        ...[site, environment, body.release, context.ifMatch],
        context,
      );
      for (const round of rounds) await queue.send('visits', { round }, SETTLE_S);
      return restored;
    },

    async showDiff({ params, query }, { store }) {
      return { data: await showDiff(sets, store, params.site, query) };
    },
  };
}
