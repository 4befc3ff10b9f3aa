import type { Environment, VerificationEvent } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import { chooseHost } from '../site/choose-host.js';
import { findSite } from '../site/site-lock.js';
import { pagesOfHost } from '../site/site-pages.js';
import { hostsOf } from '../storage/hosts.js';
import { verifySite } from '../verify/verify-site.js';
import { judgeOfHost } from './judge-of-host.js';
import type { StartedJob } from './started.js';

export interface VerificationInput {
  readonly site: string;
  readonly environment: Environment;
  /** The environment's first one when left out. */
  readonly host?: string | undefined;
  /** The host's known pages when left out. */
  readonly paths?: readonly string[] | undefined;
}

/** Visits pages of a host and compares them with their plans. @throws ServiceError 404 */
export const verification: StartedJob<VerificationInput, VerificationEvent> = async function* (
  { site: key, environment, host: named, paths },
  tools,
) {
  const { store, sets, client } = tools;
  const site = await findSite(store, key);
  const host = chooseHost(await hostsOf(store, site), key, environment, named);
  const served = await sets.served(store, site, host.environment);
  if (!served) throw new ServiceError('nothing-published', { environment: host.environment });
  yield* verifySite({
    address: host.address ?? `http://${host.host}`,
    paths: paths ?? (await pagesOfHost(client, store, site, host)).paths,
    release: served.number,
    snapshot: served.snapshot,
    host: host.host,
    environment: host.environment,
    delivery: host.delivery,
    judge: await judgeOfHost(tools, site, host, served),
    client,
    access: await client.accessIfLetIn(store, site, host),
  });
};
