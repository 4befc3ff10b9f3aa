import type { SiteResource, SiteSummaryResource } from '@pragmatica/contract';
import { rightsAt, type Access } from '@pragmatica/core';
import type { Site } from '../storage/rows.js';
import type { SummarizedSite } from '../storage/site-summaries.js';

/** A site as lists of the API show it. */
export function siteSummaryResource(site: SummarizedSite, access: Access): SiteSummaryResource {
  const { key, name, timeZone, hosts, environments, snippets, pendingChanges, attention, findings } = site;
  return {
    key,
    name,
    timeZone,
    hosts: hosts.map((host) => ({ ...host })),
    environments: { staging: environments.staging ?? null, live: environments.live ?? null },
    snippets,
    pendingChanges,
    attention,
    findings,
    isBeingChecked: !site.isCurrent,
    rights: rightsAt(access, key),
  };
}

/** A site as the API shows it by itself. */
export function siteResource(site: Site, summarized: SummarizedSite, access: Access): SiteResource {
  return {
    ...siteSummaryResource(summarized, access),
    name: site.name,
    timeZone: site.timeZone,
    pageGroups: site.pageGroups.map((group) => ({ ...group, patterns: [...group.patterns] })),
    consent: toConsent(site.consent),
    fields: site.fields.map((field) => ({ ...field })),
    version: site.version,
    updatedBy: site.updatedBy,
    updatedAt: site.updatedAt.toISOString(),
  };
}

function toConsent(consent: Site['consent']): SiteResource['consent'] {
  return consent ? { ...consent, categories: consent.categories.map((category) => ({ ...category })) } : null;
}
