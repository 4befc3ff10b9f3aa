import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import { restoreRelease, showEnvironment } from '../site/environments.js';
import { publishSeen } from '../site/publish-seen.js';
import { listReleases, showDiff, showRelease } from '../site/releases.js';
import type { SeenDrafts } from '../site/seen-drafts.js';
import type { SiteTools } from '../site/use-case.js';

export function releaseHandlers(
  tools: SiteTools,
  seenDrafts: SeenDrafts,
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
      const published = await publishSeen({ ...tools, seenDrafts }, params.site, request, context);
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
      return restoreRelease(params.site, params.environment, body.release, context.ifMatch, context);
    },

    async showDiff({ params, query }, { store }) {
      return { data: await showDiff(sets, store, params.site, query) };
    },
  };
}
