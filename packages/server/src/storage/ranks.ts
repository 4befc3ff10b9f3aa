import type { Placement } from '@pragmatica/core';
import { groupBy } from '../group-by.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** The last rank in a placement of a site's draft. */
export interface LastRank {
  readonly placement: Placement;
  readonly rank: number;
}

/** Where the placements of drafts end: what core's `ranksFor` asks for. One query, and no code is read. @returns by site id */
export async function lastRanks(
  store: Store,
  sites: readonly number[],
): Promise<Map<number, readonly LastRank[]>> {
  const em = emOf(store);
  const rows = await em.execute<(LastRank & { site: number })[]>(
    `select s.site_id as site, p.placement, max(p.rank)::int as rank
     from part p join snippet s on s.id = p.snippet_id
     where s.site_id = any(?::int[]) group by s.site_id, p.placement`,
    [`{${sites.join()}}`],
  );
  return groupBy(rows, ({ site }) => site);
}
