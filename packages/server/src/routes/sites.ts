import { sitesWith } from '@pragmatica/core';
import type { HandlersOf, RequestContext } from '../http/context.js';
import { pagePosition } from '../http/page-position.js';
import type { Settings } from '../settings.js';
import { addSite, editSite, siteTag } from '../site/edit-site.js';
import { keyOrFromName } from '../site/key-or-from-name.js';
import { lookAtAddress } from '../site/look-at-address.js';
import type { SiteChecks } from '../site/site-checks.js';
import { findSite } from '../site/site-lock.js';
import { listPages, previewPages } from '../site/site-pages.js';
import { siteResource, siteSummaryResource } from '../site/site-resource.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import { listSites, type SitePosition } from '../storage/site-summaries.js';

const POSITION: SitePosition = [0, '', 0];

export function siteHandlers(
  { PRAGMATICA_GATEWAY_PORT: gatewayPort }: Settings,
  checks: SiteChecks,
  summaries: SiteSummaries,
): HandlersOf<
  'previewPages' | 'listSites' | 'createSite' | 'lookAtAddress' | 'showSite' | 'editSite' | 'listPages'
> {
  type Found = Awaited<ReturnType<typeof findSite>>;
  const answer = async ({ store, access }: Pick<RequestContext, 'store' | 'access'>, site: Found) => ({
    data: siteResource(site, await summaries.show(store.fork(), site.id), access),
    etag: siteTag(site),
  });
  const { client } = checks;
  return {
    async previewPages({ params, body }, { store }) {
      return { data: await previewPages(client, store, params.site, body) };
    },

    async listSites({ query: { q, filter, after, limit, since } }, { store, access }) {
      const position = pagePosition(after, POSITION);
      const seen = sitesWith(access, 'view');
      const found = await listSites(store, { searched: q, seen, filter, limit, after: position, since });
      return {
        data: {
          items: found.sites.map((site) => siteSummaryResource(site, access)),
          next: found.next,
          counts: found.counts,
          since: found.since,
        },
      };
    },

    async createSite({ body }, context) {
      const { store, actor, access } = context;
      const key = keyOrFromName(body.key, body.name);
      const home = { ...body, key, consent: body.consent ?? undefined };
      const site = await addSite(store, home, { actor, access, gatewayPort });
      return { ...(await answer(context, site)), location: `/api/v1/sites/${key}` };
    },

    async lookAtAddress({ body }) {
      return { data: await lookAtAddress(checks, body.address) };
    },

    async showSite({ params }, context) {
      return answer(context, await findSite(context.store, params.site));
    },

    async editSite({ params, body }, context) {
      const { store, actor, access, ifMatch } = context;
      const by = { actor, access, gatewayPort };
      return answer(context, await editSite(store, params.site, body, ifMatch, by));
    },

    async listPages({ params, query }, { store }) {
      return { data: await listPages(client, store, params.site, query.environment) };
    },
  };
}
