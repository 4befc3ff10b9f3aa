import type { Store } from '../storage/store.js';
import type { HostResource } from '@pragmatica/contract';
import { isLocalhost } from '@pragmatica/contract/node';
import {
  changeSite,
  mayAt,
  plainChanges,
  type Access,
  type SiteChange,
  type Snapshot,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { hostOfAnother, hostsOf, replaceHosts } from '../storage/hosts.js';
import type { Host, Site } from '../storage/rows.js';
import { snapshotSite } from '../storage/read-draft.js';
import { insertSite, saveSite, siteByKey } from '../storage/sites.js';
import { fieldError } from '../texts/field-errors.js';
import { etag } from './entity-tag.js';
import { assertIfMatch } from './if-match.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { withSiteLock } from './site-lock.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export type NewHost = Required<HostResource>;

/** What may be said of a site; what is left out stays as it is. */
export interface SiteEdit extends Omit<Extract<SiteChange, { readonly kind: 'edit-site' }>, 'kind'> {
  readonly hosts?: readonly NewHost[] | undefined;
}

export interface EditContext {
  readonly actor: string;
  readonly access: Access;
  /** At which visitors reach names below `.localhost`. */
  readonly gatewayPort: number;
}

/** Adds a site. @throws ServiceError 409 where its key or one of its hosts is taken */
export async function addSite(
  store: Store,
  { hosts, ...home }: Snapshot['site'] & { readonly hosts: readonly NewHost[] },
  { actor, access, gatewayPort }: EditContext,
): Promise<Site> {
  return store.transactional(async (transaction) => {
    await assertFree(transaction, home.key);
    const site = await insertSite(transaction, home, actor);
    await setHosts(transaction, site, hosts, { access, gatewayPort });
    audit(
      transaction,
      site,
      actor,
      'site.add',
      () => say(SITE_TEXTS.addedSiteName, { name: home.name }),
      plainChanges('host', {}, saidOf(reachableAll(hosts, gatewayPort))),
    );
    await transaction.flush();
    await notifyGateways(transaction, site);
    return site;
  });
}

/** The entity tag of a site: another one after every change of what is said of it. */
export function siteTag({ key, version }: Site): string {
  return etag(`${key}-${version}`);
}

/** Changes a site; works at once. @param ifMatch - as whoever asks has seen it @throws ServiceError 404, 409, 412 */
export async function editSite(
  store: Store,
  key: string,
  edit: SiteEdit,
  ifMatch: string,
  context: EditContext,
): Promise<Site> {
  return withSiteLock(store, key, async (transaction, site) => {
    assertIfMatch(ifMatch, siteTag(site), SITE_TEXTS.site, { by: site.updatedBy, at: site.updatedAt });
    await edited(transaction, site, edit, context);
    return site;
  });
}

async function edited(
  store: Store,
  site: Site,
  { hosts, ...edit }: SiteEdit,
  { actor, access, gatewayPort }: EditContext,
): Promise<void> {
  saveSite(site, changeSite(snapshotSite(site), [{ kind: 'edit-site', ...edit }]), actor);
  const hostsWere = hosts && saidOf(await hostsOf(store, site));
  if (hosts !== undefined) await setHosts(store, site, hosts, { access, gatewayPort });
  const named = (Object.keys(SITE_TEXTS.parts) as (keyof SiteEdit)[]).filter(
    (name) => (name === 'hosts' ? hosts : edit[name]) !== undefined,
  );
  audit(
    store,
    site,
    actor,
    'site.edit',
    () => say(SITE_TEXTS.changedSite, { parts: named.map((name) => SITE_TEXTS.parts[name]) }),
    hosts && hostsWere ? plainChanges('host', hostsWere, saidOf(reachableAll(hosts, gatewayPort))) : [],
  );
  await store.flush();
  await notifyGateways(store, site);
}

async function assertFree(store: Store, key: string): Promise<void> {
  if (!(await siteByKey(store, key))) return;
  throw new ServiceError('site-key-taken', { key }, { errors: [fieldError('/key', 'key-taken', {})] });
}

async function setHosts(
  store: Store,
  site: Site,
  hosts: readonly NewHost[],
  { access, gatewayPort }: Pick<EditContext, 'access' | 'gatewayPort'>,
): Promise<void> {
  const names = hosts.map(({ host }) => host);
  const taken = await hostOfAnother(store, site, names);
  if (taken) {
    const index = names.indexOf(taken.host);
    throw new ServiceError(
      'host-taken',
      { host: taken.host, site: taken.name, isSeen: String(mayAt(access, taken.site, 'view')) },
      { errors: [fieldError(`/hosts/${index}/host`, 'host-of-another-site', {})] },
    );
  }
  await replaceHosts(store, site, reachableAll(hosts, gatewayPort));
}

function reachableAll(hosts: readonly NewHost[], gatewayPort: number): NewHost[] {
  return hosts.map((host) => reachable(host, gatewayPort));
}

/** What the trail keeps of hosts, by name. */
function saidOf(hosts: readonly (NewHost | Host)[]): Record<string, object> {
  return Object.fromEntries(
    hosts.map(({ host, environment, origin, address, transfer, delivery }) => [
      host,
      { environment, origin, address: address ?? null, transfer, delivery },
    ]),
  );
}

/** A host with everything that can be left out: what the gateway does not deliver is fetched where visitors reach it. */
function reachable(host: NewHost, gatewayPort: number): NewHost {
  if (host.delivery === 'gateway')
    return { ...host, address: host.address ?? localAddress(host.host, gatewayPort) };
  return { ...host, origin: host.origin || new URL(host.address ?? `http://${host.host}`).origin };
}

/** Names below `.localhost` are this machine's: visitors reach them at the gateway's own port. */
function localAddress(host: string, gatewayPort: number): string | null {
  return isLocalhost(host) ? `http://${host}:${gatewayPort}` : null;
}
