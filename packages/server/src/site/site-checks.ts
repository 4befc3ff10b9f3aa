import type { Store } from '../storage/store.js';
import {
  dayAt,
  languageTag,
  snapshotDigest,
  unfinishedFinding,
  applyWaivers,
  type UnwordedFinding,
  type PolicyGrounds,
  type PolicyOverview,
  type RecipeUse,
  type Snapshot,
  type WaivedFindings,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import { knownPages } from '../pages/known-pages.js';
import { fetchSkeletons, type Visiting } from '../pages/page-skeletons.js';
import type { SiteClient } from '../outgoing/site-client.js';
import { deferMessages } from '../language/speech.js';
import { ReadingError, type Readers } from '../reading/readers.js';
import type { PlainKnowledge } from '../reading/bench.js';
import { policedHosts } from '../storage/host-policies.js';
import { hostsOf } from '../storage/hosts.js';
import { boxesOf } from '../storage/pasted-blocks.js';
import type { Host, Site } from '../storage/rows.js';
import { ageSummary } from '../storage/site-summaries.js';
import { lastDoneSurvey, type Survey } from '../storage/surveys.js';
import { ignoredKeys } from '../storage/survey-reads.js';
import { ticksOf } from '../storage/ticks.js';
import { waiversOf } from '../storage/waivers.js';
import { lineAddress } from './line-address.js';
import { findSite } from './site-lock.js';
import type { SurveyBook } from './surveys/survey-book.js';
import { surveyKnowledge, type SurveyKnowledge } from './surveys/survey-knowledge.js';
import { RecipeCache } from './recipe-cache.js';

const MINUTE_MS = 60_000;
const PAGES_KEPT_MS = 5 * 60_000;
/** Sites times the sets that people look at; a list of findings is small beside the code it is about. */
const RESULTS_KEPT = 500;

/** What is known of a site beside its set, as it was at one moment. */
export type SiteKnowledge = Required<Omit<PlainKnowledge, 'now'>>;

/**
 * The checks over the sites' sets. Code is read once, whichever site it is on; what was found in a set is kept until the
 * set or what is known of the site changes.
 */
export class SiteChecks {
  readonly recipeCache = new RecipeCache();
  readonly readers: Readers;
  readonly client: SiteClient;
  /** Asking a site for its pages takes longer than all checks; they change seldom. By host. */
  readonly #known = new LRUCache<number, SiteKnowledge>({ max: 1_000, ttl: PAGES_KEPT_MS });
  readonly #found = new LRUCache<string, Promise<readonly UnwordedFinding[]>>({ max: RESULTS_KEPT });
  readonly #uses = new WeakMap<Snapshot, { edition: string; uses: RecipeUse[] }>();
  #lastId = 0;

  readonly #book: SurveyBook;
  /** By survey: what one saw does not change. */
  readonly #surveyed = new LRUCache<number, SurveyKnowledge & { readonly id: number }>({ max: 200 });

  readonly #lineBase: string;
  /** Somebody who waits for reports asks again and again, and only the reports are others. */
  readonly #policies = new LRUCache<string, Promise<PolicyOverview>>({ max: 50 });

  /** @param lineBase - where browsers load lines from */
  constructor({ readers, client }: Visiting, book: SurveyBook, lineBase: string) {
    this.readers = readers;
    this.client = client;
    this.#book = book;
    this.#lineBase = lineBase;
  }

  /** What is known of a site beside its set; it is asked for its pages when that is some time ago. */
  async knowledge(store: Store, site: Site): Promise<SiteKnowledge> {
    const hosts = await hostsOf(store, site);
    const [host] = hosts;
    const { recipes, edition } = await this.recipeCache.read(store);
    const more = {
      recipes,
      edition,
      ticks: await ticksOf(store, site),
      ...(await this.#ways(store, site, hosts)),
    };
    if (!host) return { ...NOTHING_KNOWN, ...more };
    const surveyed = await this.#bySurvey(store, site, host);
    if (surveyed) return { ...surveyed, ...more };
    let known = this.#known.get(host.id);
    if (!known) {
      const access = await this.client.accessIfLetIn(store, site, host);
      const { paths } = await knownPages(host, this.client, access);
      const skeletons = await fetchSkeletons(host, paths, this, access);
      known = { ...NOTHING_KNOWN, id: ++this.#lastId, paths, skeletons };
      this.#known.set(host.id, known);
      await ageSummary(store, site.id);
    }
    return { ...known, ...more };
  }

  /** How the pages get their parts: that changes at once, without the site being asked for anything. */
  async #ways(
    store: Store,
    site: Site,
    hosts: readonly Host[],
  ): Promise<Pick<SiteKnowledge, 'hosts' | 'boxes' | 'lineAddress'>> {
    return {
      hosts: hosts.map(({ host, environment, delivery }) => ({ host, environment, delivery })),
      boxes: hosts.some(({ delivery }) => delivery === 'paste') ? await boxesOf(store, site) : [],
      lineAddress: lineAddress(this.#lineBase, site.key, 'live'),
    };
  }

  /** Which policies pages need; worked out once for the same set, survey and decision. */
  async policyOverview(grounds: PolicyGrounds, survey: number): Promise<PolicyOverview> {
    const { snapshot, environment, address, own, canMark, lineAddress: line } = grounds;
    const about = JSON.stringify([languageTag(), survey, environment, address, own, canMark, line]);
    const key = `${snapshotDigest(snapshot)} ${about}`;
    let overview = this.#policies.get(key);
    if (!overview) {
      overview = this.readers.run('policyOverview', grounds);
      this.#policies.set(key, overview);
      overview.catch(() => this.#policies.delete(key));
    }
    return overview;
  }

  /** What is known of a site that is not here yet: the recipes that there are. */
  async nothingKnown(store: Store): Promise<SiteKnowledge> {
    const { recipes, edition } = await this.recipeCache.read(store);
    return { ...NOTHING_KNOWN, recipes, edition };
  }

  /** The newest survey of a host, and what it saw; undefined where there is none yet. */
  async surveyed(
    store: Store,
    site: Site,
    { environment, host, address }: Host,
  ): Promise<
    { readonly survey: Survey; readonly known: SurveyKnowledge & { readonly id: number } } | undefined
  > {
    const survey = await lastDoneSurvey(store, site, { environment, host, side: 'public' });
    if (!survey) return undefined;
    let known = this.#surveyed.get(survey.id);
    if (!known) {
      known = {
        id: ++this.#lastId,
        ...(await surveyKnowledge(this.#book, store, site, survey, address ?? `http://${host}`)),
      };
      this.#surveyed.set(survey.id, known);
    }
    return { survey, known };
  }

  /** What the newest survey of a host tells the checks. */
  async #bySurvey(store: Store, site: Site, host: Host): Promise<SiteKnowledge | undefined> {
    const { known } = (await this.surveyed(store, site, host)) ?? {};
    if (!known) return undefined;
    const ignored = await ignoredKeys(store, site);
    const isExtended = (await policedHosts(store, site)).has(host.host);
    return {
      ...NOTHING_KNOWN,
      ...known,
      // Something else is known then.
      id: isExtended ? -known.id : known.id,
      // The gateway lets in what the snippets need, whatever the headers said; what stands in pages stays.
      policies: isExtended ? known.policies.map(withoutHeaders) : known.policies,
      ignored: [...ignored].sort(),
    };
  }

  /** The recipes that the snippets of a set are installs of. */
  async recipeUses(store: Store, snapshot: Snapshot): Promise<RecipeUse[]> {
    const { recipes, edition } = await this.recipeCache.read(store);
    const known = this.#uses.get(snapshot);
    if (known?.edition === edition) return known.uses;
    const uses = await this.readers.run('recipeUses', { snapshot, recipes, edition });
    this.#uses.set(snapshot, { edition, uses });
    return uses;
  }

  /** Asks the site for its pages ahead of a change, so that its row is not locked meanwhile. @throws ServiceError 404 */
  async prepare(store: Store, site: string): Promise<SiteKnowledge> {
    return this.knowledge(store, await findSite(store, site));
  }

  /** What the checks find in a set, whoever has accepted what. Asked for twice at once, it is worked out once. */
  async find(snapshot: Snapshot, known: SiteKnowledge): Promise<readonly UnwordedFinding[]> {
    const hasHours = snapshot.snippets.some(({ limits }) => limits?.hours !== undefined);
    // Only hours make findings come and go with the time; they are told to the minute.
    const now = Math.floor(Date.now() / MINUTE_MS) * MINUTE_MS;
    const hosts = JSON.stringify([known.hosts, known.boxes, known.lineAddress]);
    const ticks = known.ticks.map(({ recipe, step, host }) => `${recipe} ${step} ${host}`).join();
    const key = `${snapshotDigest(snapshot)} ${known.id} ${hosts} ${hasHours ? now : ''} ${known.edition} ${ticks} ${known.ignored.join()}`;
    let found = this.#found.get(key);
    if (!found) {
      // Whoever reads it says it in their language.
      found = deferMessages(() => this.#check(snapshot, { ...known, now }));
      this.#found.set(key, found);
      found.catch(() => this.#found.delete(key));
    }
    return found;
  }

  async #check(snapshot: Snapshot, known: PlainKnowledge): Promise<readonly UnwordedFinding[]> {
    if (snapshot.snippets.length === 0) return [];
    try {
      return await this.readers.run('check', { snapshot, known });
    } catch (error) {
      if (error instanceof ReadingError) return [unfinishedFinding(snapshot)];
      throw error;
    }
  }

  /** What asks for attention in a site's set, and what somebody has accepted. */
  async applyWaivers(store: Store, site: Site, snapshot: Snapshot): Promise<WaivedFindings<UnwordedFinding>> {
    const found = await this.find(snapshot, await this.knowledge(store, site));
    return applyWaivers(found, await waiversOf(store, site), today(site));
  }

  /** The same without asking the site: its pages are those that were last heard of. */
  async applyWaiversAsKnown(
    store: Store,
    site: Site,
    snapshot: Snapshot,
  ): Promise<WaivedFindings<UnwordedFinding>> {
    const hosts = await hostsOf(store, site);
    const { recipes, edition } = await this.recipeCache.read(store);
    const [host] = hosts;
    const surveyed = host && (await this.#bySurvey(store, site, host));
    const pages = surveyed ?? (host && this.#known.get(host.id)) ?? NOTHING_KNOWN;
    const more = {
      recipes,
      edition,
      ticks: await ticksOf(store, site),
      ...(await this.#ways(store, site, hosts)),
    };
    const found = await this.find(snapshot, { ...pages, ...more });
    return applyWaivers(found, await waiversOf(store, site), today(site));
  }
}

function withoutHeaders(known: SurveyKnowledge['policies'][number]): SurveyKnowledge['policies'][number] {
  return { ...known, policies: known.policies.filter(({ from }) => from !== 'header') };
}

const NOTHING_KNOWN: SiteKnowledge = {
  id: 0,
  paths: [],
  skeletons: [],
  seen: [],
  absent: [],
  policies: [],
  groups: [],
  hasMorePages: false,
  files: { base: 'http://localhost', files: [] },
  ignored: [],
  hosts: [],
  boxes: [],
  lineAddress: '',
  recipes: [],
  ticks: [],
  edition: '',
};

/** The day that it is at the site, `2027-03-31`. */
export function today(site: Site): string {
  return dayAt(Date.now(), site.timeZone);
}
