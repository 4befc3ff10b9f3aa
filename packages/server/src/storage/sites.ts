import { LockMode } from '@mikro-orm/postgresql';
import type { Field, PageGroup, Snapshot } from '@pragmatica/core';
import { emOf } from './em.js';
import { SiteEntity } from './entities/index.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** @returns undefined where there is no site of this key */
export async function siteByKey(store: Store, key: string): Promise<Site | undefined> {
  return (await emOf(store).findOne(SiteEntity, { key })) ?? undefined;
}

/** Those that there are. One query. @returns by key */
export async function sitesByKey(store: Store, keys: readonly string[]): Promise<Map<string, Site>> {
  const sites = await emOf(store).find(SiteEntity, { key: { $in: [...new Set(keys)] } });
  return new Map(sites.map((site) => [site.key, site]));
}

export async function siteById(store: Store, id: number): Promise<Site | undefined> {
  return (await emOf(store).findOne(SiteEntity, { id })) ?? undefined;
}

/** The same, and nobody else changes it before the transaction ends. */
export async function lockSite(store: Store, key: string): Promise<Site | undefined> {
  const lockMode = LockMode.PESSIMISTIC_WRITE;
  return (await emOf(store).findOne(SiteEntity, { key }, { lockMode })) ?? undefined;
}

/** Locks several sites at once, in one order for all. Those that there are not are left out. @returns by key */
export async function lockSites(store: Store, keys: readonly string[]): Promise<Map<string, Site>> {
  const sites = await emOf(store).find(
    SiteEntity,
    { key: { $in: [...new Set(keys)] } },
    { lockMode: LockMode.PESSIMISTIC_WRITE, orderBy: { id: 'asc' } },
  );
  return new Map(sites.map((site) => [site.key, site]));
}

/** Adds a site. @param by - the login of whoever adds it */
export async function insertSite(
  store: Store,
  { key, name, timeZone, pageGroups = [], consent, fields = [] }: Snapshot['site'],
  by: string,
): Promise<Site> {
  const em = emOf(store);
  const site = em.create(
    SiteEntity,
    {
      ...{ key, name, timeZone, pageGroups, consent: consent ?? null, fields },
      ...{ updatedBy: by, updatedAt: new Date(), version: 1 },
    },
    { persist: true },
  );
  await em.flush();
  return site;
}

/**
 * Saves what core has worked out that a set says of its site; what is as it was is not written.
 *
 * @param by - the login of whoever changes it
 */
export function saveSite(
  site: Site,
  { name, timeZone, pageGroups = [], consent, fields = [] }: Snapshot['site'],
  by: string,
): void {
  Object.assign(site, {
    name,
    timeZone,
    pageGroups,
    consent: consent ?? null,
    fields,
    updatedBy: by,
    updatedAt: new Date(),
  });
}

/** Saves what a site defines for its snippets, as a change of a snippet brings it along. */
export function saveDefinitions(
  site: Site,
  definitions: { readonly fields?: readonly Field[]; readonly pageGroups?: readonly PageGroup[] },
): void {
  Object.assign(site, definitions);
}
