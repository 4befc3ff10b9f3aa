import type { EntityManager } from '@mikro-orm/postgresql';
import { partKey, placementKey, type SetChange } from '@pragmatica/core';
import { loadDraft } from '../storage/draft.js';
import type { Site } from '../storage/entities/index.js';

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
    const own = changes.filter((change) =>
      change.kind === 'switch-off' ? change.snippet === snippet.key : keys.has(change.part),
    );
    if (own.length === 0) continue;
    Object.assign(snippet, { updatedBy: actor, updatedAt: new Date() });
    const removed = new Set<unknown>();
    for (const change of own) {
      if (change.kind === 'switch-off') {
        snippet.state = 'off';
        continue;
      }
      const part = keys.get(change.part)!;
      if (change.kind === 'edit-code') part.code = change.code;
      else if (change.kind === 'remove-part') removed.add(part);
      else {
        const group = placementKey(change.placement);
        const ranks = all.filter((one) => placementKey(one.placement) === group).map(({ rank }) => rank);
        Object.assign(part, { placement: change.placement, rank: Math.max(-1, ...ranks) + 1 });
      }
    }
    for (const part of parts) if (removed.has(part)) em.remove(part);
    parts
      .filter((part) => !removed.has(part))
      .forEach((part, position) => {
        part.position = position;
      });
  }
  await em.flush();
}
