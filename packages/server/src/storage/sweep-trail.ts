import { emOf } from './em.js';
import type { Store } from './store.js';

const AT_A_TIME = 10_000;

/** Removes the trail's entries of more than so many days ago. The database lets no younger one go. @returns how many */
export async function sweepTrail(store: Store, days: number): Promise<number> {
  const em = emOf(store);
  let removed = 0;
  for (;;) {
    const { affectedRows } = await em.transactional(async (transaction) => {
      await transaction.execute(`select set_config('pragmatica.trail_days', ?, true)`, [String(days)]);
      return transaction.execute<{ affectedRows: number }>(
        `delete from audit where id in
           (select id from audit where at < now() - make_interval(days => ?) order by at limit ?)`,
        [days, AT_A_TIME],
        'run',
      );
    });
    removed += affectedRows;
    if (affectedRows < AT_A_TIME) return removed;
  }
}
