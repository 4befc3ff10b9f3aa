import type { ApiClient } from '@pragmatica/contract';
import type { EnvironmentName, Snapshot } from '@pragmatica/core';
import { clientFor, siteFor, type SiteOptions } from './context.js';
import { CliError } from './errors.js';
import { EXPORT } from './texts/export.js';
import { say } from './texts/say.js';

/** A set of the service: the draft, what an environment serves, or a release by its number. @throws CliError */
export async function releaseSet(options: SiteOptions, of = 'live'): Promise<Snapshot> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  if (of === 'draft') return (await client.call('showDraft', { params: { site } })).data.snapshot;
  const number = of === 'live' || of === 'staging' ? await servedNumber(client, site, of) : Number(of);
  if (!Number.isInteger(number)) throw new CliError(say(EXPORT.notDraftLive, { of }));
  return (await client.call('showRelease', { params: { site, release: number } })).data.snapshot;
}

async function servedNumber(client: ApiClient, site: string, environment: EnvironmentName): Promise<number> {
  const { data } = await client.call('showEnvironment', { params: { site, environment } });
  if (data.release === null) throw new CliError(say(EXPORT.nothingWasPublished, { environment }));
  return data.release;
}
