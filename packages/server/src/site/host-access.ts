import { plainChanges } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import { SEAL_PURPOSES } from '../outgoing/seal-purposes.js';
import type { HostSecret } from '../outgoing/site-access.js';
import { accessesOf, removeAccess, saveAccess, type HostAccessRow } from '../storage/host-access.js';
import { hostsOf } from '../storage/hosts.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';
import { findSite, withSiteLock } from './site-lock.js';
import type { Acting } from './use-case.js';

/** Hosts of a site that are not public, without what opens them. @throws ServiceError 404 */
export async function listAccesses(store: Store, key: string) {
  const rows = await accessesOf(store, await findSite(store, key));
  return rows.map(({ host, kind, setBy, setAt }) => ({ host, kind, by: setBy, at: setAt }));
}

/** Keeps what opens a host, sealed. It is never shown again. @throws ServiceError 404 */
export async function giveAccess(
  box: SecretBox,
  key: string,
  host: string,
  secret: HostSecret,
  { store, actor }: Acting,
): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const hosts = await hostsOf(transaction, site);
    if (!hosts.some((one) => one.host === host)) {
      const known = hosts.map((one) => one.host).join(', ');
      throw new ServiceError('no-such-host', { site: key, host, known });
    }
    const sealed = box.seal(JSON.stringify(secret), SEAL_PURPOSES.hostAccess(site.id, host));
    const before = saidOf(await accessOf(transaction, site, host));
    await saveAccess(transaction, site, { host, kind: secret.kind, sealed, setBy: actor });
    const changes = plainChanges('access', before, saidOf({ host, kind: secret.kind }));
    audit(transaction, site, actor, 'host.access', () => say(SITE_TEXTS.gaveAccess, { host }), changes);
    await transaction.flush();
  });
}

/** Forgets what opens a host. @throws ServiceError 404 */
export async function forgetAccess(key: string, host: string, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const before = saidOf(await accessOf(transaction, site, host));
    if (!(await removeAccess(transaction, site, host))) throw new ServiceError('no-access-kept', { host });
    const changes = plainChanges('access', before, {});
    audit(transaction, site, actor, 'host.access', () => say(SITE_TEXTS.forgotAccess, { host }), changes);
    await transaction.flush();
  });
}

/** What opens a host; undefined where nothing is kept for it. */
async function accessOf(store: Store, site: Site, host: string): Promise<HostAccessRow | undefined> {
  return (await accessesOf(store, site)).find((one) => one.host === host);
}

/** What the trail keeps of it: never the secret. */
function saidOf(access: Pick<HostAccessRow, 'host' | 'kind'> | undefined): Record<string, object> {
  return access ? { [access.host]: { kind: access.kind } } : {};
}
