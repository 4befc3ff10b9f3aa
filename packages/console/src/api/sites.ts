import type { LookResource, SiteResource } from '@pragmatica/contract';
import { queryOptions } from '@tanstack/react-query';
import { api } from './client';

/** Whether a site answers there, and what it calls itself. */
export async function lookAtAddress(address: string): Promise<LookResource> {
  return (await api.call('lookAtAddress', { body: { address } })).data;
}

/** Adds a site that was looked at. Until its owner has said more, one line is what suits most. */
export async function addSite({ name, host, address }: LookResource): Promise<SiteResource> {
  const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const hosts = [{ host, address, environment: 'live' as const, delivery: 'line' as const }];
  return (await api.call('createSite', { body: { name, timeZone, hosts } })).data;
}

/** Whether visitors of some environment get a release. @param site - undefined while it is loaded, which is no reason to say no */
export function isPublished(site: Pick<SiteResource, 'environments'> | undefined): boolean {
  return site === undefined || Object.values(site.environments).some((release) => release !== null);
}

/** What a survey saw of a site. */
export const firstLookQuery = (site: string, survey: number) =>
  queryOptions({
    queryKey: ['site', site, 'first-look', survey],
    queryFn: async () => (await api.call('showFirstLook', { params: { site, survey } })).data,
  });
