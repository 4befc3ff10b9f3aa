import { emOf } from './em.js';
import type { Store } from './store.js';

/**
 * Removes what no survey names any more: compositions, and texts that are neither code of a sighting nor a page's
 * skeleton or policies. A survey that is under way may be about to name what it has seen kept, so nothing is removed
 * then, and none begins to write meanwhile.
 *
 * @returns how many texts were removed
 */
export async function sweepContents(store: Store): Promise<number> {
  return store.transactional(async (transaction) => {
    const em = emOf(transaction);
    await em.execute('lock table survey_text, composition in share row exclusive mode');
    const open = await em.execute<unknown[]>(
      `select 1 from survey where state in ('waiting', 'running') limit 1`,
    );
    if (open.length > 0) return 0;
    await em.execute(
      'delete from composition c where not exists (select 1 from survey_page p where p.composition_id = c.id)',
    );
    const gone = await em.execute<unknown[]>(
      `delete from survey_text t where not exists (select 1 from sighting s where s.code_id = t.id)
         and not exists (select 1 from survey_page p where p.skeleton_id = t.id)
         and not exists (select 1 from survey_page p where p.policies_id = t.id)
       returning t.id`,
    );
    return gone.length;
  });
}
