import type { HostResource } from '@pragmatica/contract';
import { emOf } from './em.js';
import { HostEntity } from './entities/index.js';
import type { Host, Site } from './rows.js';
import type { Store } from './store.js';

/** The hosts of a site, in their order. */
export async function hostsOf(store: Store, site: Site): Promise<readonly Host[]> {
  return emOf(store).find(HostEntity, { site }, { orderBy: { position: 'asc' } });
}

/** One of these hosts that another site has, and the name of that site. */
export async function hostOfAnother(
  store: Store,
  site: Site,
  hosts: readonly string[],
): Promise<{ readonly host: string; readonly site: string; readonly name: string } | undefined> {
  const taken = await emOf(store).findOne(
    HostEntity,
    { host: { $in: [...hosts] }, site: { $ne: site.id } },
    { populate: ['site'] },
  );
  return taken ? { host: taken.host, site: taken.site.key, name: taken.site.name } : undefined;
}

/** Those of these hosts that some site has. */
export async function takenHosts(store: Store, hosts: readonly string[]): Promise<string[]> {
  const rows = await emOf(store).find(
    HostEntity,
    { host: { $in: [...hosts] } },
    { orderBy: { host: 'asc' } },
  );
  return rows.map(({ host }) => host);
}

/** Gives a site these hosts, in this order. */
export async function replaceHosts(
  store: Store,
  site: Site,
  hosts: readonly Required<HostResource>[],
): Promise<void> {
  const em = emOf(store);
  await em.nativeDelete(HostEntity, { site });
  hosts.forEach((host, position) => em.create(HostEntity, { ...host, site, position }, { persist: true }));
}
