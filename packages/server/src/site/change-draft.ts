import type { EntityManager } from '@mikro-orm/postgresql';
import {
  addedParts,
  partChanges,
  partKey,
  placementKey,
  type PartChange,
  type Placement,
  type SetChange,
} from '@pragmatica/core';
import { loadDraft, setState } from '../storage/draft.js';
import { PartEntity, type Part, type Site } from '../storage/entities/index.js';

/** Makes changes in the stored draft as `applyChanges` makes them in a snapshot. */
export async function changeDraft(
  em: EntityManager,
  site: Site,
  changes: readonly SetChange[],
  actor: string,
): Promise<void> {
  const draft = await loadDraft(em, site);
  const all = draft.flatMap(({ parts }) => parts);
  for (const { snippet, parts } of draft) {
    const keys = new Map(parts.map((part, index) => [partKey(snippet.key, index), part]));
    const isSwitchedOff = changes.some(
      (change) => change.kind === 'switch-off' && change.snippet === snippet.key,
    );
    const own = changes.flatMap(partChanges).filter((change) => isChange(change, keys.get(change.part)));
    const added = addedParts(changes, snippet.key);
    if (!isSwitchedOff && own.length === 0 && added.length === 0) continue;
    Object.assign(snippet, { updatedBy: actor, updatedAt: new Date() });
    if (isSwitchedOff) setState(snippet, 'off', actor);
    const removed = new Set<unknown>();
    const lastIn = (placement: Placement): number => {
      const group = placementKey(placement);
      const ranks = all.filter((one) => placementKey(one.placement) === group).map(({ rank }) => rank);
      return Math.max(-1, ...ranks) + 1;
    };
    for (const change of own) {
      const part = keys.get(change.part)!;
      if (change.kind === 'edit-code') part.code = change.code;
      else if (change.kind === 'remove-part') removed.add(part);
      else if (change.kind === 'rank-part')
        Object.assign(part, { placement: change.placement, rank: change.rank });
      else Object.assign(part, { placement: change.placement, rank: lastIn(change.placement) });
    }
    for (const part of parts) if (removed.has(part)) em.remove(part);
    const kept = parts.filter((part) => !removed.has(part));
    kept.forEach((part, position) => {
      part.position = position;
    });
    added.forEach(({ placement, code }, index) => {
      const values = { placement, code, statement: '', rank: lastIn(placement) };
      const part = em.create(
        PartEntity,
        { snippet, position: kept.length + index, ...values },
        { persist: true },
      );
      all.push(part);
    });
  }
  await em.flush();
}

/** A part that keeps its place in a new order is not changed by it. */
function isChange(change: PartChange, part: Part | undefined): boolean {
  if (!part) return false;
  return (
    change.kind !== 'rank-part' ||
    change.rank !== part.rank ||
    placementKey(change.placement) !== placementKey(part.placement)
  );
}
