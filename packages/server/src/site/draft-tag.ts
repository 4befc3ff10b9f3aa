import type { EntityManager } from '@mikro-orm/postgresql';
import { orderLists, snapshotDigest, type Placement, type Snapshot } from '@pragmatica/core';
import { AuditEntity, type Site } from '../storage/entities/index.js';
import { etag, type LastChange } from './entity-tag.js';

/** The draft's entity tag: it changes with anything that a release would hold. */
export function draftTag(snapshot: Snapshot): string {
  return etag(`draft-${snapshotDigest(snapshot).slice(0, 32)}`);
}

/** Who changed anything of the site last. */
export async function lastChange(em: EntityManager, site: Site): Promise<LastChange | undefined> {
  const entry = await em.findOne(AuditEntity, { site }, { orderBy: { id: 'desc' } });
  return entry ? { by: entry.by, at: entry.at } : undefined;
}

/** The order lists of a draft. */
export function orderData(snapshot: Snapshot): { placement: Placement; parts: string[] }[] {
  return orderLists(snapshot).map(({ placement, parts }) => ({
    placement,
    parts: [...parts],
  }));
}
