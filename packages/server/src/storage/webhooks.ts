import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** A program that is told. */
export interface Webhook {
  readonly id: number;
  readonly url: string;
  /** What its messages are signed with, sealed. */
  readonly sealed: string;
  readonly madeBy: string;
  readonly madeAt: Date;
}

const COLUMNS = `id, url, sealed, made_by as "madeBy", made_at as "madeAt"`;

const toWebhook = (row: Webhook): Webhook => ({ ...row, madeAt: new Date(row.madeAt) });

export async function webhooksOf(store: Store, site: Pick<Site, 'id'>): Promise<readonly Webhook[]> {
  const rows = await emOf(store).execute<Webhook[]>(
    `select ${COLUMNS} from webhook where site_id = ? order by id`,
    [site.id],
  );
  return rows.map(toWebhook);
}

export async function addWebhook(
  store: Store,
  site: Pick<Site, 'id'>,
  { url, sealed, madeBy }: Pick<Webhook, 'url' | 'sealed' | 'madeBy'>,
): Promise<Webhook> {
  const [row] = await emOf(store).execute<Webhook[]>(
    `insert into webhook (site_id, url, sealed, made_by) values (?, ?, ?, ?) returning ${COLUMNS}`,
    [site.id, url, sealed, madeBy],
  );
  return toWebhook(row!);
}

/** @returns the one that was removed */
export async function removeWebhook(
  store: Store,
  site: Pick<Site, 'id'>,
  id: number,
): Promise<Webhook | undefined> {
  const [row] = await emOf(store).execute<Webhook[]>(
    `delete from webhook where site_id = ? and id = ? returning ${COLUMNS}`,
    [site.id, id],
  );
  return row && toWebhook(row);
}
