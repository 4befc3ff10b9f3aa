import type { EntityManager } from '@mikro-orm/postgresql';
import { pageMatcher, pageRulesWords, withoutGroups } from '@pragmatica/core';
import type { HostResource } from '@pragmatica/contract';
import { isLocalhost } from '@pragmatica/contract/node';
import { assertIfMatch } from '../http/if-match.js';
import { pagePosition } from '../http/page-position.js';
import { etag } from '../site/entity-tag.js';
import type { HandlersOf } from '../http/context.js';
import { ServiceError } from '../errors.js';
import { knownPages } from '../pages/known-pages.js';
import type { Settings } from '../settings.js';
import { audit, withSiteLock, findSite, notifyGateways } from '../site/site-lock.js';
import type { SiteChecks } from '../site/site-checks.js';
import { siteResource, siteSummaryResource } from '../site/site-resource.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import { toCursor } from '../storage/cursor.js';
import { listSites, type SitePosition } from '../storage/site-summaries.js';
import { AuditEntity, HostEntity, SiteEntity, type Site } from '../storage/entities/index.js';
import { keyOrFromName } from '../site/key-or-from-name.js';

const POSITION: SitePosition = [0, '', 0];

/** How many entries of the activity are shown. */
const ACTIVITY_LENGTH = 200;

export function siteHandlers(
  settings: Settings,
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
      const site = await em.transactional(async (transaction) => {
        await assertFree(transaction, key);
        const created = transaction.create(
          SiteEntity,
          {
            key,
            name: body.name,
            timeZone: body.timeZone,
            pageGroups: body.pageGroups,
            consent: body.consent,
            fields: body.fields,
            updatedBy: actor,
            updatedAt: new Date(),
            version: 1,
          },
          { persist: true },
        );
        await transaction.flush();
        await setHosts(transaction, created, body.hosts, settings);
        audit(transaction, created, actor, 'site.add', `Added the site “${body.name}”.`);
        await transaction.flush();
        await notifyGateways(transaction, created);
        return created;
      });
      return { ...(await answer(em, summaries, site)), location: `/api/v1/sites/${key}` };
    },

    async showSite({ params }, { em }) {
      return answer(em, summaries, await findSite(em, params.site));
    },

    async editSite({ params, body }, { em, actor, ifMatch }) {
      const site = await withSiteLock(em, params.site, async (transaction, found) => {
        assertIfMatch(ifMatch, siteTag(found), 'The site', { by: found.updatedBy, at: found.updatedAt });
        if (body.name !== undefined) found.name = body.name;
        if (body.timeZone !== undefined) found.timeZone = body.timeZone;
        if (body.pageGroups !== undefined) found.pageGroups = body.pageGroups;
        if (body.consent !== undefined) found.consent = body.consent;
        if (body.fields !== undefined) found.fields = body.fields;
        if (body.hosts !== undefined) await setHosts(transaction, found, body.hosts, settings);
        found.updatedBy = actor;
        found.updatedAt = new Date();
        audit(
          transaction,
          found,
          actor,
          'site.edit',
          `Changed the site’s ${Object.keys(body)
            .map((name) => FIELD_WORDS[name])
            .join(' and ')}.`,
        );
        await transaction.flush();
        await notifyGateways(transaction, found);
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

const FIELD_WORDS: Record<string, string> = {
  name: 'name',
  timeZone: 'time zone',
  hosts: 'hosts',
  pageGroups: 'page groups',
  consent: 'purposes of consent',
  fields: 'fields',
};

async function assertFree(em: EntityManager, key: string): Promise<void> {
  if ((await em.count(SiteEntity, { key })) === 0) return;
  throw new ServiceError('conflict', `There is a site "${key}" already. Give another key.`, {
    errors: [{ pointer: '/key', detail: 'This key is taken.' }],
  });
}

async function setHosts(
  em: EntityManager,
  site: Site,
  hosts: readonly Required<HostResource>[],
  settings: Settings,
): Promise<void> {
  const taken = await em.findOne(
    HostEntity,
    { host: { $in: hosts.map((host) => host.host) }, site: { $ne: site.id } },
    { populate: ['site'] },
  );
  if (taken) {
    const index = hosts.findIndex((host) => host.host === taken.host);
    throw new ServiceError(
      'conflict',
      `The host ${taken.host} belongs to the site “${taken.site.name}” already.`,
      {
        errors: [{ pointer: `/hosts/${index}/host`, detail: 'This host belongs to another site.' }],
      },
    );
  }
  await em.nativeDelete(HostEntity, { site });
  hosts.forEach((host, position) => {
    const address = host.address ?? localAddress(host.host, settings);
    em.create(HostEntity, { ...host, address, site, position }, { persist: true });
  });
}

/** Names below `.localhost` are this machine's: visitors reach them at the gateway's own port. */
function localAddress(host: string, settings: Settings): string | null {
  return isLocalhost(host) ? `http://${host}:${settings.PRAGMATICA_GATEWAY_PORT}` : null;
}

function siteTag(site: Site): string {
  return etag(`${site.key}-${site.version}`);
}

async function answer(em: EntityManager, summaries: SiteSummaries, site: Site) {
  return { data: siteResource(site, await summaries.show(em.fork(), site.id)), etag: siteTag(site) };
}
