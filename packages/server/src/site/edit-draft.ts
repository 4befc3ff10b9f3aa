import type { EntityManager } from '@mikro-orm/postgresql';
import { placementKey, type Placement } from '@pragmatica/core';
import { PartEntity, type Part, type Site, type Snippet } from '../storage/entities/index.js';

export interface PartInput {
  readonly placement: Placement;
  readonly code: string;
  /** Stays as it is when left out. */
  readonly statement?: string | undefined;
}

/**
 * Gives a snippet these parts. A part that stays in its placement keeps its rank; one that is new there goes last.
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
  const ranks = await nextRanks(em, site);
  parts.forEach((input, position) => {
    const key = placementKey(input.placement);
    const old = existing[position];
    const keepsPlace = old !== undefined && placementKey(old.placement) === key;
    const rank = keepsPlace ? old.rank : (ranks.get(key) ?? 0);
    if (!keepsPlace) ranks.set(key, rank + 1);
    const { placement, code, statement = old?.statement ?? '' } = input;
    const values = { placement, code, statement, rank };
    if (old) Object.assign(old, values);
    else em.create(PartEntity, { snippet, position, ...values }, { persist: true });
  });
  for (const part of existing.slice(parts.length)) em.remove(part);
}

async function nextRanks(em: EntityManager, site: Site): Promise<Map<string, number>> {
  const next = new Map<string, number>();
  for (const part of await em.find(PartEntity, { snippet: { site } })) {
    const key = placementKey(part.placement);
    next.set(key, Math.max(next.get(key) ?? 0, part.rank + 1));
  }
  return next;
}
