import { ServiceError, errorAt } from '../errors.js';
import type { Host } from '../storage/rows.js';

/**
 * A host of a site: the one that is named, or the environment's first.
 *
 * @throws ServiceError 404 for a host that is none of the site's, 409 where the environment has none
 */
export function chooseHost(
  hosts: readonly Host[],
  site: string,
  environment: string,
  named: string | undefined,
): Host {
  if (named !== undefined) {
    const host = hosts.find((one) => one.host === named);
    if (host) return host;
    const known = hosts.map((one) => one.host).join(', ');
    throw errorAt('/host', 'no-such-host', { site, host: named, known });
  }
  const host = hosts.find((one) => one.environment === environment);
  if (!host) throw new ServiceError('no-host-to-visit', { environment });
  return host;
}
