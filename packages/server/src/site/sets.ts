import type { Store } from '../storage/store.js';
import type { Environment } from '@pragmatica/contract';
import type { Snapshot } from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { ServiceError } from '../errors.js';
import { pointerOf } from '../storage/pointers.js';
import type { Release, Site } from '../storage/rows.js';
import { readDraft, snapshotSite, type Draft } from '../storage/read-draft.js';
import { releaseByNumber, releaseSnapshot } from '../storage/releases.js';
import { siteRevision } from '../storage/site-summaries.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

const MAX_BYTES = 64 << 20;

/**
 * The sets of sites: drafts as they are, and what releases hold. What has not changed since somebody looked is not read
 * again: a draft is known by its revision, and a release never changes.
 */
export class Sets {
  readonly #drafts = new LRUCache<number, Draft>({
    maxSize: MAX_BYTES,
    sizeCalculation: ({ snapshot }) => roughSize(snapshot),
  });
  readonly #releases = new LRUCache<number, Snapshot>({ maxSize: MAX_BYTES, sizeCalculation: roughSize });

  /** A site's draft. Inside a transaction it is read anew: what is not there for all is kept for nobody. */
  async draft(store: Store, site: Site): Promise<Draft> {
    if (store.isInTransaction()) return readDraft(store, site.id);
    const known = this.#drafts.get(site.id);
    if (known && known.revision === (await siteRevision(store, site.id))) return known;
    const draft = await readDraft(store, site.id);
    this.#drafts.set(site.id, draft);
    return draft;
  }

  /** What a release holds. */
  async release(store: Store, release: Release): Promise<Snapshot> {
    let snapshot = this.#releases.get(release.id);
    if (!snapshot) {
      snapshot = await releaseSnapshot(store, release);
      if (!store.isInTransaction()) this.#releases.set(release.id, snapshot);
    }
    return snapshot;
  }

  /** The release that an environment serves; undefined while there is none. */
  async served(
    store: Store,
    site: Site,
    environment: Environment,
  ): Promise<{ number: number; snapshot: Snapshot } | undefined> {
    const pointer = await pointerOf(store, site, environment);
    if (!pointer) return undefined;
    const { release } = pointer;
    return { number: release.number, snapshot: await this.release(store, release) };
  }

  /**
   * The set that a reference (`draft`, `live`, `staging` or a release's number) means.
   *
   * @returns the snapshot, and a name for people
   * @throws ServiceError 404 for a release that does not exist
   */
  async resolve(store: Store, site: Site, reference: string): Promise<{ name: string; snapshot: Snapshot }> {
    if (reference === 'draft')
      return { name: SITE_TEXTS.theDraft, snapshot: (await this.draft(store, site)).snapshot };
    if (reference === 'live' || reference === 'staging') {
      const served = await this.served(store, site, reference);
      return served
        ? { name: `${reference} (release ${served.number})`, snapshot: served.snapshot }
        : { name: say(SITE_TEXTS.referenceNothingPublished, { reference }), snapshot: emptySnapshot(site) };
    }
    const release = await findRelease(store, site, Number(reference));
    return { name: `release ${release.number}`, snapshot: await this.release(store, release) };
  }
}

/** The set before anything was published: nothing. */
export function emptySnapshot(site: Site): Snapshot {
  return {
    format: 'pragmatica-set/1',
    site: snapshotSite(site),
    snippets: [],
  };
}

/** @throws ServiceError 404 */
export async function findRelease(store: Store, site: Site, number: number): Promise<Release> {
  const release = await releaseByNumber(store, site, number);
  if (!release) throw new ServiceError('no-such-release', { site: site.key, number });
  return release;
}

const SNIPPET_BYTES = 1_000;

/** About how much memory a set takes: its code, and something for each snippet. */
export function roughSize({ snippets }: Snapshot): number {
  const code = snippets.flatMap(({ parts }) => parts.map((part) => part.code.length));
  return code.reduce((sum, length) => sum + 2 * length, SNIPPET_BYTES * (snippets.length + 1));
}
