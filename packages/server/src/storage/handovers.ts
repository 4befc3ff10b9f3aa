import type { Environment } from '@pragmatica/contract';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** A link to the blocks to paste. Its secret is not among what is kept. */
export interface Handover {
  readonly id: number;
  readonly siteId: number;
  readonly environment: Environment;
  readonly by: string;
  readonly madeAt: Date;
  readonly until: Date;
  readonly usedAt: Date | null;
}

const COLUMNS = `id, site_id as "siteId", environment, made_by as "by", made_at as "madeAt", until, used_at as "usedAt"`;

interface Row extends Omit<Handover, 'madeAt' | 'until' | 'usedAt'> {
  readonly madeAt: string;
  readonly until: string;
  readonly usedAt: string | null;
}

function toHandover(row: Row): Handover {
  return {
    ...row,
    madeAt: new Date(row.madeAt),
    until: new Date(row.until),
    usedAt: row.usedAt === null ? null : new Date(row.usedAt),
  };
}

/** Those of a site that still work, the newest first. */
export async function handoversOf(store: Store, site: Pick<Site, 'id'>): Promise<Handover[]> {
  const rows = await emOf(store).execute<Row[]>(
    `select ${COLUMNS} from handover where site_id = ? and until > now() order by id desc`,
    [site.id],
  );
  return rows.map(toHandover);
}

/** Keeps a new one; those of the site that are over go. */
export async function insertHandover(
  store: Store,
  site: Pick<Site, 'id'>,
  { hash, environment, by, days }: { hash: string; environment: Environment; by: string; days: number },
): Promise<Handover> {
  const em = emOf(store);
  await em.execute('delete from handover where site_id = ? and until <= now()', [site.id]);
  const [row] = await em.execute<Row[]>(
    `insert into handover (site_id, secret_hash, environment, made_by, until)
     values (?, ?, ?, ?, now() + make_interval(days => ?)) returning ${COLUMNS}`,
    [site.id, hash, environment, by, days],
  );
  return toHandover(row!);
}

/** @returns undefined for a secret that no link has, or none that still works */
export async function handoverByHash(store: Store, hash: string): Promise<Handover | undefined> {
  const [row] = await emOf(store).execute<Row[]>(
    `select ${COLUMNS} from handover where secret_hash = ? and until > now()`,
    [hash],
  );
  return row && toHandover(row);
}

export async function noteHandoverUse(store: Store, id: number): Promise<void> {
  await emOf(store).execute('update handover set used_at = now() where id = ?', [id]);
}

/** @returns whether there was one */
export async function removeHandover(store: Store, site: Pick<Site, 'id'>, id: number): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    'delete from handover where site_id = ? and id = ? returning id',
    [site.id, id],
  );
  return rows.length > 0;
}
