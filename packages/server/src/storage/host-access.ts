import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

export type AccessKind = 'basic' | 'header' | 'cookie' | 'form';

/** That a host is not public, and what opens it, sealed. */
export interface HostAccessRow {
  readonly host: string;
  readonly kind: AccessKind;
  readonly sealed: string;
  readonly setBy: string;
  readonly setAt: string;
}

const COLUMNS = `host, kind, sealed, set_by as "setBy", to_char(set_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as "setAt"`;

/** What is kept for the hosts of a site, by host. */
export async function accessesOf(store: Store, site: Pick<Site, 'id'>): Promise<readonly HostAccessRow[]> {
  return emOf(store).execute<HostAccessRow[]>(
    `select ${COLUMNS} from host_access where site_id = ? order by host`,
    [site.id],
  );
}

export async function saveAccess(
  store: Store,
  site: Pick<Site, 'id'>,
  { host, kind, sealed, setBy }: Omit<HostAccessRow, 'setAt'>,
): Promise<void> {
  await emOf(store).execute(
    `insert into host_access (site_id, host, kind, sealed, set_by) values (?, ?, ?, ?, ?)
     on conflict (site_id, host) do update
       set kind = excluded.kind, sealed = excluded.sealed, set_by = excluded.set_by, set_at = now()`,
    [site.id, host, kind, sealed, setBy],
  );
}

/** @returns whether there was one */
export async function removeAccess(store: Store, site: Pick<Site, 'id'>, host: string): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    'delete from host_access where site_id = ? and host = ? returning host',
    [site.id, host],
  );
  return rows.length > 0;
}
