import type { EntityManager } from '@mikro-orm/postgresql';
import {
  FactsMemory,
  RecipeBook,
  dayAt,
  runChecks,
  snapshotDigest,
  weigh,
  type Facts,
  type Finding,
  type Knowledge,
  type Snapshot,
  type StepTick,
  type Waiver,
  type Weighed,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { groupBy } from '../group-by.js';
import { knownPages } from '../pages/known-pages.js';
import { fetchSkeletons } from '../pages/page-skeletons.js';
import { findSite } from './change-site.js';
import { RecipeShelf } from './recipe-shelf.js';
import {
  HostEntity,
  StepTickEntity,
  WaiverEntity,
  type Host,
  type Site,
  type StepTickRow,
} from '../storage/entities/index.js';

const MINUTE_MS = 60_000;
const PAGES_KEPT_MS = 5 * 60_000;
/** Sites times the sets that people look at; a list of findings is small beside the code it is about. */
const RESULTS_KEPT = 500;

/** What is known of a site beside its set, as it was at one moment. */
export interface SiteKnowledge extends Required<Omit<Knowledge, 'now'>> {
  /** Another one for every moment. */
  readonly id: number;
  /** Of the recipes. */
  readonly edition: string;
}

/**
 * The checks over the sites' sets. Code is read once, whichever site it is on; what was found in a set is kept until the
 * set or what is known of the site changes.
 */
export class SiteChecks {
  readonly shelf = new RecipeShelf();
  readonly #memory = new FactsMemory();
  /** Asking a site for its pages takes longer than all checks; they change seldom. By host. */
  readonly #known = new LRUCache<number, SiteKnowledge>({ max: 1_000, ttl: PAGES_KEPT_MS });
  readonly #found = new LRUCache<string, readonly Finding[]>({ max: RESULTS_KEPT });
  readonly #nothing: SiteKnowledge = {
    id: 0,
    memory: this.#memory,
    paths: [],
    skeletons: [],
    hosts: [],
    book: new RecipeBook(),
    ticks: [],
    edition: '',
  };
  #lastId = 0;

  /** What is known of a site beside its set; it is asked for its pages when that is some time ago. */
  async knowledge(em: EntityManager, site: Site): Promise<SiteKnowledge> {
    const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
    const [host] = hosts;
    const recipes = { ...(await this.shelf.look(em)), ticks: await this.ticksOf(em, site) };
    if (!host) return { ...this.#nothing, ...recipes };
    let known = this.#known.get(host.id);
    if (!known) {
      const { paths } = await knownPages(host);
      const skeletons = await fetchSkeletons(host, paths);
      known = { ...this.#nothing, id: ++this.#lastId, paths, skeletons };
      this.#known.set(host.id, known);
    }
    return withHosts({ ...known, ...recipes }, hosts);
  }

  /** Facts of code, remembered with those of the checks. */
  readonly read = (code: string): Facts => this.#memory.read(code).facts;

  /** What somebody has ticked off for a site. */
  async ticksOf(em: EntityManager, site: Site): Promise<StepTick[]> {
    return (await em.find(StepTickEntity, { site }, { orderBy: { id: 'asc' } })).map(toTick);
  }

  /** Asks the site for its pages ahead of a change, so that its row is not locked meanwhile. @throws ProblemError 404 */
  async prepare(em: EntityManager, site: string): Promise<SiteKnowledge> {
    return this.knowledge(em, await findSite(em, site));
  }

  /** What the checks find in a set, whoever has accepted what. */
  find(snapshot: Snapshot, known: SiteKnowledge): readonly Finding[] {
    const hasHours = snapshot.snippets.some(({ limits }) => limits?.hours !== undefined);
    // Only hours make findings come and go with the time; they are told to the minute.
    const now = Math.floor(Date.now() / MINUTE_MS) * MINUTE_MS;
    const hosts = known.hosts.map(({ host, environment }) => `${host}=${environment}`).join();
    const ticks = known.ticks.map(({ recipe, step, host }) => `${recipe} ${step} ${host}`).join();
    const key = `${snapshotDigest(snapshot)} ${known.id} ${hosts} ${hasHours ? now : ''} ${known.edition} ${ticks}`;
    let found = this.#found.get(key);
    if (!found) this.#found.set(key, (found = runChecks(snapshot, { ...known, now })));
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
    drafts: readonly { readonly site: Site; readonly snapshot: Snapshot; readonly hosts: readonly Host[] }[],
  ): Promise<Map<number, Weighed>> {
    const ids = { $in: drafts.map(({ site }) => site.id) };
    const waivers = groupBy(await em.find(WaiverEntity, { site: ids }), (waiver) => waiver.site.id);
    const ticks = groupBy(await em.find(StepTickEntity, { site: ids }), (tick) => tick.site.id);
    const shelf = await this.shelf.look(em);
    return new Map(
      drafts.map(({ site, snapshot, hosts }) => {
        const pages = (hosts[0] && this.#known.get(hosts[0].id)) ?? this.#nothing;
        const recipes = { ...shelf, ticks: (ticks.get(site.id) ?? []).map(toTick) };
        const known = withHosts({ ...pages, ...recipes }, hosts);
        const found = this.find(snapshot, known);
        return [site.id, weigh(found, waivers.get(site.id) ?? [], today(site))];
      }),
    );
  }
}

function toTick({ recipe, step, host, by, at }: StepTickRow): StepTick {
  return { recipe, step, host, by, at: at.toISOString() };
}

/** Hosts change at once, without being asked for. */
function withHosts(known: SiteKnowledge, hosts: readonly Host[]): SiteKnowledge {
  return { ...known, hosts: hosts.map(({ host, environment }) => ({ host, environment })) };
}

async function waiversOf(em: EntityManager, site: Site): Promise<readonly Waiver[]> {
  return em.find(WaiverEntity, { site });
}

/** The day that it is at the site, `2027-03-31`. */
export function today(site: Site): string {
  return dayAt(Date.now(), site.timeZone);
}
