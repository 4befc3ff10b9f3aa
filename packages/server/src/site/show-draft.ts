import type { Store } from '../storage/store.js';
import { snapshotDigest } from '@pragmatica/core';
import { draftTag, lastChange } from './draft-tag.js';
import type { SeenDrafts } from './seen-drafts.js';
import type { Sets } from './sets.js';
import { findSite } from './site-lock.js';

/** A draft as a snapshot, and who changed the site last; what is shown can be published as it is. @throws ServiceError 404 */
export async function showDraft(sets: Sets, seenDrafts: SeenDrafts, store: Store, key: string) {
  const site = await findSite(store, key);
  const { snapshot } = await sets.draft(store, site);
  const last = await lastChange(store, site);
  const etag = draftTag(snapshot);
  await seenDrafts.remember(store, site, etag, snapshot);
  return {
    data: {
      snapshot,
      digest: snapshotDigest(snapshot),
      lastChange: last ? { by: last.by, at: last.at.toISOString() } : null,
    },
    etag,
  };
}
