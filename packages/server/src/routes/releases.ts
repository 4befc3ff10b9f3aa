import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { JobQueue } from '../jobs/queue.js';
import { restoreRelease, showEnvironment } from '../site/environments.js';
import { publishSeen } from '../site/publish-seen.js';
import { listReleases, showDiff, showRelease } from '../site/releases.js';
import type { SeenDrafts } from '../site/seen-drafts.js';
import { SETTLE_S } from '../site/watch/after-publishing.js';
import type { Home } from '../site/watch/tell-act.js';
import type { SiteTools } from '../site/use-case.js';

export function releaseHandlers(
  tools: SiteTools,
  seenDrafts: SeenDrafts,
  queue: Pick<JobQueue, 'send'>,
  home: Home,
): HandlersOf<
  'listReleases' | 'publish' | 'showRelease' | 'showEnvironment' | 'restoreRelease' | 'showDiff'
> {
  const { sets } = tools;
  /** What is published is published: a round that is not in line now is taken up later. */
  const lookLater = async (rounds: readonly number[]): Promise<void> => {
    for (const round of rounds) await queue.send('visits', { round }, SETTLE_S).catch(() => undefined);
  };
  return {
    async listReleases({ params, query: { limit, after } }, { store }) {
      const listing = { limit, after: numberPosition(after) };
      return { data: await listReleases(store, params.site, listing) };
    },

    async publish({ params, body }, context) {
      const request = { ...body, ifMatch: context.ifMatch };
      const { published, rounds } = await publishSeen(
        { ...tools, seenDrafts, home },
        params.site,
        request,
        context,
      );
      await lookLater(rounds);
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
        home,
      );
      await lookLater(rounds);
      return restored;
    },

    async showDiff({ params, query }, { store }) {
      return { data: await showDiff(sets, store, params.site, query) };
    },
  };
}
