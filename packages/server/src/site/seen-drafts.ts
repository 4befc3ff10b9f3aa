import type { Snapshot } from '@pragmatica/core';
import type { Store } from '../storage/store.js';
import { LRUCache } from 'lru-cache';
import { roughSize } from './sets.js';
import { pointersOf } from '../storage/pointers.js';
import type { Site } from '../storage/rows.js';

/** A draft as somebody saw it, and what visitors got at that moment. */
export interface SeenDraft {
  readonly snapshot: Snapshot;
  /** Releases by environment. */
  readonly served: string;
}

const MAX_BYTES = 128 << 20;
const KEPT_MS = 60 * 60_000;

/**
 * Drafts that were looked at lately, by their tag: what somebody publishes is the draft that they saw, whatever others
 * have changed in it since.
 */
export class SeenDrafts {
  readonly #seen = new LRUCache<string, SeenDraft>({
    maxSize: MAX_BYTES,
    ttl: KEPT_MS,
    sizeCalculation: ({ snapshot }) => roughSize(snapshot),
  });

  async remember(store: Store, site: Site, tag: string, snapshot: Snapshot): Promise<void> {
    const served = await servedNow(store, site);
    this.#seen.set(`${site.id} ${tag}`, { snapshot, served });
  }

  /** The draft that one of these tags (`If-Match`) is of. */
  find(site: Site, ifMatch: string): SeenDraft | undefined {
    for (const tag of ifMatch.split(',')) {
      const seen = this.#seen.get(`${site.id} ${tag.trim()}`);
      if (seen) return seen;
    }
    return undefined;
  }
}

/** What the environments of a site serve, in one text. */
export async function servedNow(store: Store, site: Site): Promise<string> {
  const pointers = await pointersOf(store, site);
  return pointers.map(({ environment, release }) => `${environment}=${release.id}`).join();
}
