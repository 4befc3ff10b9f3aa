import type { Environment, VerificationEvent } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import { findSite } from '../site/site-lock.js';
import { pagesOfHost } from '../site/site-pages.js';
import { hostsOf } from '../storage/hosts.js';
import { verifySite } from '../verify/verify-site.js';
import type { StartedJob } from './started.js';

export interface VerificationInput {
  readonly site: string;
  readonly environment: Environment;
  /** The site's known pages when left out. */
  readonly paths?: readonly string[] | undefined;
}

/** Visits pages of a site and compares them with their plans. @throws ServiceError 404 */
export const verification: StartedJob<VerificationInput, VerificationEvent> = async function* (
  { site: key, environment, paths },
  { store, sets, readers, client },
) {
  const site = await findSite(store, key);
  const host = (await hostsOf(store, site)).find((one) => one.environment === environment);
  if (!host) throw new ServiceError('no-host-to-visit', { environment });
  const served = await sets.served(store, site, environment);
  if (!served) throw new ServiceError('nothing-published', { environment });
  yield* verifySite({
    address: host.address ?? `http://${host.host}`,
    paths: paths ?? (await pagesOfHost(client, store, site, host)).paths,
    release: served.number,
    snapshot: served.snapshot,
    host: host.host,
    environment,
    readers,
    client,
    access: await client.accessIfLetIn(store, site, host),
  });
};
