import { listAllSites, type ApiClient, type SiteSummaryResource } from '@pragmatica/contract';
import { expect } from 'chai';
import { eventually } from './http.js';

/** All sites once what was changed last has been looked at. */
export async function settledSites(client: ApiClient): Promise<SiteSummaryResource[]> {
  let sites: SiteSummaryResource[] = [];
  await eventually(async () => {
    sites = await listAllSites(client);
    expect(sites.filter(({ isBeingChecked }) => isBeingChecked)).to.deep.equal([]);
  });
  return sites;
}
