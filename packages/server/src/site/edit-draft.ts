import type { Store } from '../storage/store.js';
import { ranksFor, type PartPer, type Placement } from '@pragmatica/core';
import { saveParts } from '../storage/draft.js';
import type { Part, Site, Snippet } from '../storage/rows.js';
import { lastRanks } from '../storage/ranks.js';

export interface PartInput {
  readonly placement: Placement;
  readonly code: string;
  /** Stays as it is when left out. */
  readonly statement?: string | undefined;
  /** Stays as it is when left out. */
  readonly per?: PartPer | undefined;
}

/**
 * Gives a snippet these parts, ranked as core ranks them.
 *
 * @param existing - the snippet's parts as stored, by position
 */
export async function setParts(
  store: Store,
  site: Site,
  snippet: Snippet,
  existing: readonly Part[],
  parts: readonly PartInput[],
): Promise<void> {
  const last = await lastRanks(store, [site.id]);
  const ranks = ranksFor(last.get(site.id) ?? [], existing, parts);
  saveParts(
    store,
    snippet,
    existing,
    parts.map(({ placement, code, statement, per }, position) => ({
      placement,
      code,
      rank: ranks[position]!,
      statement: statement ?? existing[position]?.statement ?? '',
      per: per ?? existing[position]?.per ?? 'load',
    })),
  );
}
