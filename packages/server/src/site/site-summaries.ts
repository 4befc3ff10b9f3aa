import type { EntityManager } from '@mikro-orm/postgresql';
import { countFindings, difference, findingsHoldUntil, type Snapshot } from '@pragmatica/core';
import { HostEntity, SiteEntity, type Site } from '../storage/entities/index.js';
import {
  findSummarizedSite,
  saveSummary,
  staleSites,
  type SiteSummary,
  type SummarizedSite,
} from '../storage/site-summaries.js';
import { attentionOf, urgencyOf } from './attention.js';
import { emptySnapshot, type Sets } from './sets.js';
import type { SiteChecks } from './site-checks.js';

/** So long somebody who asks about one site waits for what is being worked out. */
const WAITED_MS = 500;

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
  async show(em: EntityManager, id: number): Promise<SummarizedSite> {
    const kept = (await findSummarizedSite(em, id))!;
    if (kept.isCurrent) return kept;
    const waited = AbortSignal.timeout(WAITED_MS);
    const isDone = await Promise.race([
      this.refresh(em.fork(), id).then(
        () => true,
        () => false,
      ),
      new Promise<false>((resolve) => waited.addEventListener('abort', () => resolve(false))),
    ]);
    return isDone ? (await findSummarizedSite(em, id))! : kept;
  }

  /** Works out summaries that are old, one after the other, until none is or the signal is aborted. */
  async refreshStale(em: EntityManager, signal: AbortSignal): Promise<void> {
    for (;;) {
      const ids = await staleSites(em.fork(), 1);
      if (ids.length === 0 || signal.aborted) return;
      await this.refresh(em.fork(), ids[0]!);
    }
  }

  /** Works out what is said of a site. Asked for twice at once, it is worked out once. */
  async refresh(em: EntityManager, id: number): Promise<void> {
    let running = this.#running.get(id);
    if (!running) {
      running = this.#refresh(em, id).finally(() => this.#running.delete(id));
      this.#running.set(id, running);
    }
    await running;
  }

  async #refresh(em: EntityManager, id: number): Promise<void> {
    const site = await em.findOne(SiteEntity, { id });
    if (!site) return;
    const { revision, snapshot } = await this.#sets.draft(em, site);
    const uses = await this.#checks.recipeUses(em, snapshot);
    const recognised = uses.flatMap(({ recipe, snippets }) =>
      snippets.flatMap((snippet) => (snippet.recipe ? [] : [{ snippet: snippet.key, recipe: recipe.key }])),
    );
    const freshUntil = new Date(findingsHoldUntil(snapshot, Date.now()));
    const summary = await this.#summarize(em, site, snapshot);
    await saveSummary(em, id, summary, { revision, freshUntil, recognised });
  }

  async #summarize(em: EntityManager, site: Site, snapshot: Snapshot): Promise<SiteSummary> {
    const { open, waived } = await this.#checks.applyWaiversAsKnown(em, site, snapshot);
    const served = await this.#sets.served(em, site, 'live');
    const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
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
