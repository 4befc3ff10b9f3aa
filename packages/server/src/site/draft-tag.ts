import type { Store } from '../storage/store.js';
import { orderLists, snapshotDigest, type Placement, type Snapshot } from '@pragmatica/core';
import type { Site } from '../storage/rows.js';
import { lastEntries } from '../storage/trail.js';
import { etag, type LastChange } from './entity-tag.js';

/** The draft's entity tag: it changes with anything that a release would hold. */
export function draftTag(snapshot: Snapshot): string {
  return etag(`draft-${snapshotDigest(snapshot).slice(0, 32)}`);
}

/** Who changed anything of the site last. */
export async function lastChange(store: Store, site: Site): Promise<LastChange | undefined> {
  const [entry] = await lastEntries(store, site, 1);
  return entry ? { by: entry.by, at: entry.at } : undefined;
}

/** The order lists of a draft. */
export function orderData(snapshot: Snapshot): { placement: Placement; parts: string[] }[] {
  return orderLists(snapshot).map(({ placement, parts }) => ({
    placement,
    parts: [...parts],
  }));
}
