import type { EntityManager } from '@mikro-orm/postgresql';
import { ranksFor, type Placement } from '@pragmatica/core';
import { saveParts } from '../storage/draft.js';
import type { Part, Site, Snippet } from '../storage/entities/index.js';
import { lastRanks } from '../storage/ranks.js';

export interface PartInput {
  readonly placement: Placement;
  readonly code: string;
  /** Stays as it is when left out. */
  readonly statement?: string | undefined;
}

/**
 * Gives a snippet these parts, ranked as core ranks them.
 *
 * @param existing - the snippet's parts as stored, by position
 */
export async function setParts(
  em: EntityManager,
  site: Site,
  snippet: Snippet,
  existing: readonly Part[],
  parts: readonly PartInput[],
): Promise<void> {
  const last = await lastRanks(em, [site.id]);
  const ranks = ranksFor(last.get(site.id) ?? [], existing, parts);
  saveParts(
    em,
    snippet,
    existing,
    parts.map(({ placement, code, statement }, position) => ({
      placement,
      code,
      rank: ranks[position]!,
      statement: statement ?? existing[position]?.statement ?? '',
    })),
  );
}
