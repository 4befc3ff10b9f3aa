import type { EntityManager } from '@mikro-orm/postgresql';
import { orderLists, snapshotDigest, type Placement } from '@pragmatica/core';
import { toSnapshot, type DraftSnippet } from '../storage/draft.js';
import { AuditEntity, type Site } from '../storage/entities/index.js';
import { etag, type LastChange } from './entity-tag.js';

/** The draft's entity tag: it changes with anything that a release would hold. */
export function draftTag(site: Site, draft: readonly DraftSnippet[]): string {
  return etag(`draft-${snapshotDigest(toSnapshot(site, draft)).slice(0, 32)}`);
}

/** Who changed anything of the site last. */
export async function lastChange(em: EntityManager, site: Site): Promise<LastChange | undefined> {
  const entry = await em.findOne(AuditEntity, { site }, { orderBy: { id: 'desc' } });
  return entry ? { by: entry.by, at: entry.at } : undefined;
}

/** The order lists of a draft. */
export function orderData(
  site: Site,
  draft: readonly DraftSnippet[],
): { placement: Placement; parts: string[] }[] {
  return orderLists(toSnapshot(site, draft)).map(({ placement, parts }) => ({
    placement,
    parts: [...parts],
  }));
}
