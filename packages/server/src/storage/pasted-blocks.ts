import type { Box, BoxKind } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** A block that somebody says is pasted. */
export interface PastedBlock {
  readonly box: BoxKind;
  /** Empty for a box of all pages. */
  readonly page: string;
  readonly digest: string;
  readonly release: number;
  readonly by: string;
  readonly at: Date;
}

/** The boxes of the site's builder, as its owner has described them. */
export async function boxesOf(store: Store, site: Pick<Site, 'id'>): Promise<readonly Box[]> {
  const [row] = await emOf(store).execute<{ boxes: readonly Box[] }[]>(
    'select boxes from paste_boxes where site_id = ?',
    [site.id],
  );
  return row?.boxes ?? [];
}

export async function saveBoxes(store: Store, site: Pick<Site, 'id'>, boxes: readonly Box[]): Promise<void> {
  await emOf(store).execute(
    `insert into paste_boxes (site_id, boxes) values (?, ?::jsonb)
     on conflict (site_id) do update set boxes = excluded.boxes`,
    [site.id, JSON.stringify(boxes)],
  );
}

export async function pastedBlocks(store: Store, site: Pick<Site, 'id'>): Promise<PastedBlock[]> {
  const rows = await emOf(store).execute<PastedBlock[]>(
    `select box, page, digest, release, pasted_by as "by", pasted_at as "at" from pasted_block
     where site_id = ? order by box, page`,
    [site.id],
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at) }));
}

/** Says that a block is pasted now, in place of what was there. */
export async function savePasted(
  store: Store,
  site: Pick<Site, 'id'>,
  { box, page, digest, release, by }: Omit<PastedBlock, 'at'>,
): Promise<void> {
  await emOf(store).execute(
    `insert into pasted_block (site_id, box, page, digest, release, pasted_by) values (?, ?, ?, ?, ?, ?)
     on conflict (site_id, box, page) do update set digest = excluded.digest, release = excluded.release,
       pasted_by = excluded.pasted_by, pasted_at = now()`,
    [site.id, box, page, digest, release, by],
  );
}

/** Says that nothing of ours is pasted there. */
export async function removePasted(
  store: Store,
  site: Pick<Site, 'id'>,
  box: BoxKind,
  page: string,
): Promise<void> {
  await emOf(store).execute('delete from pasted_block where site_id = ? and box = ? and page = ?', [
    site.id,
    box,
    page,
  ]);
}
