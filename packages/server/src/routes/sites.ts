import type { EntityManager } from '@mikro-orm/postgresql';
import { pageMatcher, pageRulesWords, withoutGroups } from '@pragmatica/core';
import { assertIfMatch } from '../http/if-match.js';
import { pagePosition } from '../http/page-position.js';
import { etag } from '../site/entity-tag.js';
import type { HandlersOf } from '../http/context.js';
import { knownPages } from '../pages/known-pages.js';
import type { Settings } from '../settings.js';
import { addSite, editSite } from '../site/edit-site.js';
import { withSiteLock, findSite } from '../site/site-lock.js';
import type { SiteChecks } from '../site/site-checks.js';
import { siteResource, siteSummaryResource } from '../site/site-resource.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import { toCursor } from '../storage/cursor.js';
import { listSites, type SitePosition } from '../storage/site-summaries.js';
import { AuditEntity, HostEntity, type Site } from '../storage/entities/index.js';
import { keyOrFromName } from '../site/key-or-from-name.js';

const POSITION: SitePosition = [0, '', 0];

/** How many entries of the activity are shown. */
const ACTIVITY_LENGTH = 200;

export function siteHandlers(
  { PRAGMATICA_GATEWAY_PORT: gatewayPort }: Settings,
  checks: SiteChecks,
  summaries: SiteSummaries,
): HandlersOf<
  'previewPages' | 'listSites' | 'createSite' | 'showSite' | 'editSite' | 'listPages' | 'listActivity'
> {
  return {
    async previewPages({ params, body }, { em }) {
      const site = await findSite(em, params.site);
      const host = await em.findOne(HostEntity, { site }, { orderBy: { position: 'asc' } });
      const known = await knownPages(host ?? undefined, checks.client);
      const matcher = pageMatcher(withoutGroups(body, site.pageGroups));
      return {
        data: {
          matched: known.paths.filter((path) => matcher.match(path).matches),
          known: known.paths.length,
          words: pageRulesWords(body, site.pageGroups),
          source: known.message,
        },
      };
    },

    async listSites({ query: { q, filter, after, limit, since } }, { em }) {
      const position = pagePosition(after, POSITION);
      const found = await listSites(em, { searched: q, filter, limit, after: position, since });
      const last = found.sites.length === limit ? found.sites.at(-1) : undefined;
      return {
        data: {
          items: found.sites.map(siteSummaryResource),
          next: last ? toCursor([last.urgency, last.name, last.id]) : null,
          counts: found.counts,
          since: found.since,
        },
      };
    },

    async createSite({ body }, { em, actor }) {
      const key = keyOrFromName(body.key, body.name);
      const home = { ...body, key, consent: body.consent ?? undefined };
      const site = await addSite(em, home, { actor, gatewayPort });
      return { ...(await answer(em, summaries, site)), location: `/api/v1/sites/${key}` };
    },

    async showSite({ params }, { em }) {
      return answer(em, summaries, await findSite(em, params.site));
    },

    async editSite({ params, body }, { em, actor, ifMatch }) {
      const site = await withSiteLock(em, params.site, async (transaction, found) => {
        assertIfMatch(ifMatch, siteTag(found), 'The site', { by: found.updatedBy, at: found.updatedAt });
        await editSite(transaction, found, body, { actor, gatewayPort });
        return found;
      });
      return answer(em, summaries, site);
    },

    async listPages({ params, query }, { em }) {
      const site = await findSite(em, params.site);
      const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
      const host = hosts.find((entry) => entry.environment === query.environment) ?? hosts[0];
      return { data: await knownPages(host, checks.client) };
    },

    async listActivity({ params }, { em }) {
      const site = await findSite(em, params.site);
      const entries = await em.find(
        AuditEntity,
        { site },
        { orderBy: { id: 'desc' }, limit: ACTIVITY_LENGTH },
      );
      return {
        data: {
          items: entries.map(({ id, action, message, by, at }) => ({
            id,
            action,
            message,
            by,
            at: at.toISOString(),
          })),
        },
      };
    },
  };
}

function siteTag(site: Site): string {
  return etag(`${site.key}-${site.version}`);
}

async function answer(em: EntityManager, summaries: SiteSummaries, site: Site) {
  return { data: siteResource(site, await summaries.show(em.fork(), site.id)), etag: siteTag(site) };
}
