import { addressShape } from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { Store } from '../storage/store.js';
import { keepCompositions, keepSightings, keepTexts } from '../storage/survey-contents.js';
import {
  addPages,
  countShapes,
  returnPages,
  savePages,
  saveUnchanged,
  unknownPaths,
  type FoundBy,
  type NewPage,
} from '../storage/survey-pages.js';
import type { Survey } from '../storage/surveys.js';
import type { Visited, VisitedPage } from './visit-page.js';

const KEPT = 50_000;

/**
 * Writes down what visits brought: what is new of it once, the pages, and the pages that these lead to, in one
 * transaction, so that a survey which is broken off has lost nothing and repeats nothing.
 */
export class VisitsSaver {
  readonly #survey: Survey;
  /** Ids by digest of what is stored already. */
  readonly #texts = new LRUCache<string, number>({ max: KEPT });
  readonly #compositions = new LRUCache<string, number>({ max: KEPT });
  /** Paths that were looked at before, so that a menu on each page costs nothing. */
  readonly #seen = new LRUCache<string, true>({ max: KEPT });

  constructor(survey: Survey) {
    this.#survey = survey;
  }

  async save(store: Store, visits: readonly Visited[]): Promise<void> {
    const done = visits.filter((visit) => visit.kind === 'done');
    await this.#keep(store, done);
    const { id, options } = this.#survey;
    const links = await this.#newPages(store, done);
    await store.transactional(async (transaction) => {
      await savePages(
        transaction,
        id,
        done.map((visit) => this.#row(visit)),
      );
      await saveUnchanged(
        transaction,
        id,
        visits.filter((visit) => visit.kind === 'unchanged'),
      );
      await returnPages(
        transaction,
        visits.filter((visit) => visit.kind === 'later'),
      );
      await addPages(transaction, id, await withinShapes(transaction, id, links), options.limit);
    });
    for (const { path } of links) this.#seen.set(path, true);
  }

  async #keep(store: Store, visits: readonly VisitedPage[]): Promise<void> {
    const contents = visits.flatMap((visit) => visit.contents ?? []);
    const texts = contents
      .flatMap(({ skeleton, policies, codes }) => [skeleton, ...(policies ? [policies] : []), ...codes])
      .filter(({ digest }) => !this.#texts.has(digest));
    const kept = await keepTexts(
      store,
      uniqueBy(texts, ({ digest }) => digest),
    );
    for (const [digest, id] of kept) this.#texts.set(digest, id);
    // Of one that is ours on some page and not on another, the other is kept.
    const sightings = uniqueBy(
      contents.flatMap((one) => one.sightings).sort((a, b) => Number(b.isOurs) - Number(a.isOurs)),
      ({ key }) => key,
    );
    await keepSightings(store, this.#survey.siteId, sightings, (form) => this.#texts.get(form)!);
    const compositions = contents
      .map(({ composition }) => composition)
      .filter(({ digest }) => !this.#compositions.has(digest));
    const ids = await keepCompositions(
      store,
      this.#survey.siteId,
      uniqueBy(compositions, ({ digest }) => digest),
    );
    for (const [digest, id] of ids) this.#compositions.set(digest, id);
  }

  #row({ row, contents }: VisitedPage) {
    if (!contents) return row;
    const { skeleton, policies, composition } = contents;
    return {
      ...row,
      skeletonId: this.#texts.get(skeleton.digest)!,
      policiesId: policies && this.#texts.get(policies.digest),
      compositionId: this.#compositions.get(composition.digest)!,
    };
  }

  /** Pages that were not heard of before. */
  async #newPages(store: Store, visits: readonly VisitedPage[]): Promise<NewPage[]> {
    // Of pages that were handed over what they lead to was not.
    if (this.#survey.options.given !== undefined) return [];
    const found = new Map<string, NewPage>();
    const add = (path: string, depth: number, foundBy: FoundBy): void => {
      if (!this.#seen.has(path) && !found.has(path)) found.set(path, { path, depth, foundBy });
    };
    for (const { page, links, redirect } of visits) {
      if (redirect !== undefined) add(redirect, page.depth, 'redirect');
      for (const path of links) add(path, Math.min(page.depth + 1, MAX_DEPTH), 'link');
    }
    if (found.size === 0) return [];
    const unknown = await unknownPaths(store, this.#survey.id, [...found.keys()]);
    const isUnknown = new Set(unknown);
    for (const path of found.keys()) if (!isUnknown.has(path)) this.#seen.set(path, true);
    return unknown.map((path) => found.get(path)!);
  }
}

/** As many as a smallint holds; nobody's site is that deep. */
const MAX_DEPTH = 1_000;

/** Of pages that are many of one shape only as many as are visited: filters and calendars have no end. */
export async function withinShapes(
  store: Store,
  survey: number,
  pages: readonly NewPage[],
): Promise<NewPage[]> {
  const shapes = new Map<string, { most: number; pages: NewPage[] }>();
  const others: NewPage[] = [];
  for (const page of pages) {
    const shape = addressShape(page.path);
    if (!shape) {
      others.push(page);
      continue;
    }
    const known = shapes.get(shape.shape) ?? { most: shape.limit, pages: [] };
    known.pages.push(page);
    shapes.set(shape.shape, known);
  }
  const room = await countShapes(
    store,
    survey,
    [...shapes].map(([shape, one]) => ({ shape, most: one.most, asked: one.pages.length })),
  );
  return [...others, ...[...shapes].flatMap(([shape, one]) => one.pages.slice(0, room.get(shape) ?? 0))];
}

function uniqueBy<T>(items: readonly T[], keyOf: (item: T) => string): T[] {
  return [...new Map(items.map((item) => [keyOf(item), item])).values()];
}
