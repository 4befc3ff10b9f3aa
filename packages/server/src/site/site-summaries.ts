import type { Store } from '../storage/store.js';
import {
  countFindings,
  difference,
  findingsHoldUntil,
  type RecipeUse,
  type Snapshot,
} from '@pragmatica/core';
import { deferMessages } from '../language/speech.js';
import { ReadingError } from '../reading/readers.js';
import { hostsOf } from '../storage/hosts.js';
import type { Site } from '../storage/rows.js';
import {
  findSummarizedSite,
  saveSummary,
  staleSites,
  type SiteSummary,
  type SummarizedSite,
} from '../storage/site-summaries.js';
import { siteById } from '../storage/sites.js';
import { attentionOf, urgencyOf } from './attention.js';
import { emptySnapshot, type Sets } from './sets.js';
import type { SiteChecks } from './site-checks.js';

/** So long somebody who asks about one site waits for what is being worked out. */
const WAITED_MS = 500;
/** Sites that are asked for together; what changes meanwhile is not asked for long after. */
const AT_A_TIME = 10;

/**
 * What lists say of sites: worked out when something has changed, off every request, and kept. A list reads what was
 * kept, and says of a site whether that is still from before its last change.
 */
export class SiteSummaries {
  readonly #checks: SiteChecks;
  readonly #sets: Sets;
  readonly #running = new Map<number, Promise<void>>();

  constructor(checks: SiteChecks, sets: Sets) {
    this.#checks = checks;
    this.#sets = sets;
  }

  /** A site with its summary; one that is being worked out is waited for a little. @throws when there is no such site */
  async show(store: Store, id: number): Promise<SummarizedSite> {
    const until = Date.now() + WAITED_MS;
    for (;;) {
      const kept = (await findSummarizedSite(store, id))!;
      const left = until - Date.now();
      // What was begun before the last change ends before it; then another round is needed.
      if (kept.isCurrent || left <= 0 || !(await this.#isRefreshed(store, id, left))) return kept;
    }
  }

  /** Whether a round of working it out has ended within so many milliseconds. */
  async #isRefreshed(store: Store, id: number, ms: number): Promise<boolean> {
    let timer: NodeJS.Timeout | undefined;
    const waited = new Promise<false>((resolve) => (timer = setTimeout(() => resolve(false), ms).unref()));
    const refreshed = this.refresh(store.fork(), id).then(
      () => true,
      () => false,
    );
    try {
      return await Promise.race([refreshed, waited]);
    } finally {
      clearTimeout(timer);
    }
  }

  /**
   * Works out summaries that are old, one after the other, until none is or the signal is aborted. One that fails holds
   * up no other.
   *
   * @throws what the last one that failed threw, when all others are done
   */
  async refreshStale(store: Store, signal: AbortSignal): Promise<void> {
    const failures = new Map<number, unknown>();
    for (;;) {
      const stale = await staleSites(store.fork(), AT_A_TIME + failures.size);
      const ids = stale.filter((id) => !failures.has(id));
      if (ids.length === 0) break;
      for (const id of ids) {
        if (signal.aborted) return;
        await this.refresh(store.fork(), id).catch((error: unknown) => failures.set(id, error));
      }
    }
    for (const failure of failures.values()) throw failure;
  }

  /** Works out what is said of a site. Asked for twice at once, it is worked out once. */
  async refresh(store: Store, id: number): Promise<void> {
    let running = this.#running.get(id);
    if (!running) {
      running = this.#refresh(store, id).finally(() => this.#running.delete(id));
      this.#running.set(id, running);
    }
    await running;
  }

  async #refresh(store: Store, id: number): Promise<void> {
    const site = await siteById(store, id);
    if (!site) return;
    const { revision, snapshot } = await this.#sets.draft(store, site);
    const uses = await this.#uses(store, snapshot);
    const recognised = uses.flatMap(({ recipe, snippets }) =>
      snippets.flatMap((snippet) => (snippet.recipe ? [] : [{ snippet: snippet.key, recipe: recipe.key }])),
    );
    const freshUntil = new Date(findingsHoldUntil(snapshot, Date.now()));
    // Lists are read by people of any language.
    const summary = await deferMessages(() => this.#summarize(store, site, snapshot));
    await saveSummary(store, id, summary, { revision, freshUntil, recognised });
  }

  /** What cannot be read within bounds is an install of nothing; the checks say that it cannot. */
  async #uses(store: Store, snapshot: Snapshot): Promise<RecipeUse[]> {
    try {
      return await this.#checks.recipeUses(store, snapshot);
    } catch (error) {
      if (error instanceof ReadingError) return [];
      throw error;
    }
  }

  async #summarize(store: Store, site: Site, snapshot: Snapshot): Promise<SiteSummary> {
    const { open, waived } = await this.#checks.applyWaiversAsKnown(store, site, snapshot);
    const served = await this.#sets.served(store, site, 'live');
    const hosts = await hostsOf(store, site);
    const pendingChanges = difference(served?.snapshot ?? emptySnapshot(site), snapshot).length;
    const attention = attentionOf({
      hosts,
      mayVisitLocal: this.#checks.client.mayBeLocal,
      live: served?.number,
      pendingChanges,
      snippets: snapshot.snippets.length,
      open,
    });
    const count = (state: Snapshot['snippets'][number]['state']): number =>
      snapshot.snippets.filter((snippet) => snippet.state === state).length;
    return {
      snippets: { on: count('on'), off: count('off'), archived: count('archived') },
      findings: { ...countFindings(open), waived: waived.length },
      pendingChanges,
      attention,
      urgency: urgencyOf(attention),
    };
  }
}
