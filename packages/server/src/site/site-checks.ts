import type { EntityManager } from '@mikro-orm/postgresql';
import {
  FactsMemory,
  runChecks,
  snapshotDigest,
  weigh,
  type Finding,
  type Knowledge,
  type Snapshot,
  type Waiver,
  type Weighed,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { groupBy } from '../group-by.js';
import { knownPages } from '../pages/known-pages.js';
import { findSite } from './change-site.js';
import { HostEntity, WaiverEntity, type Host, type Site } from '../storage/entities/index.js';

const PAGES_KEPT_MS = 60_000;
/** Sites times the sets that people look at; a list of findings is small beside the code it is about. */
const RESULTS_KEPT = 500;

/**
 * The checks over the sites' sets. Code is read once, whichever site it is on; what was found in a set is kept until the
 * set or the site's list of pages changes.
 */
export class SiteChecks {
  readonly #memory = new FactsMemory();
  /** Asking a site for its pages takes longer than all checks; the list changes seldom. */
  readonly #pages = new LRUCache<number, readonly string[]>({ max: 1_000, ttl: PAGES_KEPT_MS });
  readonly #found = new LRUCache<string, readonly Finding[]>({ max: RESULTS_KEPT });

  /** What is known of a site beside its set; its pages are asked for. */
  async knowledge(em: EntityManager, site: Site): Promise<Required<Knowledge>> {
    const host = await em.findOne(HostEntity, { site }, { orderBy: { position: 'asc' } });
    return { memory: this.#memory, paths: await this.#pathsOf(host ?? undefined) };
  }

  /** Asks the site for its pages ahead of a change, so that its row is not locked meanwhile. @throws ProblemError 404 */
  async prepare(em: EntityManager, site: string): Promise<Required<Knowledge>> {
    return this.knowledge(em, await findSite(em, site));
  }

  /** What the checks find in a set, whoever has accepted what. */
  find(snapshot: Snapshot, { paths }: Required<Knowledge>): readonly Finding[] {
    const key = `${snapshotDigest(snapshot)} ${paths.join(' ')}`;
    let found = this.#found.get(key);
    if (!found) this.#found.set(key, (found = runChecks(snapshot, { memory: this.#memory, paths })));
    return found;
  }

  /** What asks for attention in a site's set, and what somebody has accepted. */
  async weigh(em: EntityManager, site: Site, snapshot: Snapshot): Promise<Weighed> {
    const found = this.find(snapshot, await this.knowledge(em, site));
    return weigh(found, await waiversOf(em, site), today(site));
  }

  /**
   * The same for the drafts of several sites, without asking any of them: the pages are those that were last heard of.
   *
   * @returns by site id
   */
  async weighAll(
    em: EntityManager,
    drafts: readonly { readonly site: Site; readonly snapshot: Snapshot; readonly host: Host | undefined }[],
  ): Promise<Map<number, Weighed>> {
    const ids = { $in: drafts.map(({ site }) => site.id) };
    const waivers = groupBy(await em.find(WaiverEntity, { site: ids }), (waiver) => waiver.site.id);
    return new Map(
      drafts.map(({ site, snapshot, host }) => {
        const paths = (host && this.#pages.get(host.id)) ?? [];
        const found = this.find(snapshot, { memory: this.#memory, paths });
        return [site.id, weigh(found, waivers.get(site.id) ?? [], today(site))];
      }),
    );
  }

  async #pathsOf(host: Host | undefined): Promise<readonly string[]> {
    const kept = host && this.#pages.get(host.id);
    if (kept) return kept;
    const { paths } = await knownPages(host);
    if (host) this.#pages.set(host.id, paths);
    return paths;
  }
}

async function waiversOf(em: EntityManager, site: Site): Promise<readonly Waiver[]> {
  return em.find(WaiverEntity, { site });
}

/** The day that it is at the site, `2027-03-31`. */
export function today(site: Site): string {
  // Swedish writes dates as RFC 3339 does.
  return new Intl.DateTimeFormat('sv-SE', { timeZone: site.timeZone }).format(new Date());
}
