import type { EntityManager } from '@mikro-orm/postgresql';
import { snapshotDigest } from '@pragmatica/core';
import { draftTag, lastChange } from './draft-tag.js';
import type { SeenDrafts } from './seen-drafts.js';
import type { Sets } from './sets.js';
import { findSite } from './site-lock.js';

/** A draft as a snapshot, and who changed the site last; what is shown can be published as it is. @throws ServiceError 404 */
export async function showDraft(sets: Sets, seenDrafts: SeenDrafts, em: EntityManager, key: string) {
  const site = await findSite(em, key);
  const { snapshot } = await sets.draft(em, site);
  const last = await lastChange(em, site);
  const etag = draftTag(snapshot);
  await seenDrafts.remember(em, site, etag, snapshot);
  return {
    data: {
      snapshot,
      digest: snapshotDigest(snapshot),
      lastChange: last ? { by: last.by, at: last.at.toISOString() } : null,
    },
    etag,
  };
}
