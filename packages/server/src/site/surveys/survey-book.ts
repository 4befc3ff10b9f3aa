import {
  CARRIER_PART,
  gatherSightings,
  sightingPages,
  snapshotDigest,
  snippetOfPart,
  standingOf,
  type ComposedPages,
  type Composition,
  type ItemPlace,
  type ItemState,
  type SightingMatch,
  type SeenSighting,
  type SightingPages,
  type Snapshot,
  type Standing,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { Readers } from '../../reading/readers.js';
import type { Store } from '../../storage/store.js';
import {
  composedPages,
  marksOf,
  sightingsByKey,
  traitsOf,
  type SightingRow,
} from '../../storage/survey-reads.js';
import type { Survey } from '../../storage/surveys.js';

/** What a survey saw, by composition. */
export interface Seen {
  readonly groups: readonly ComposedPages[];
  readonly compositions: ReadonlyMap<number, Composition>;
}

/** Something unusual about pages. */
export type SeenTrait = Awaited<ReturnType<typeof traitsOf>>[number];

/** A sighting of a survey, with how it stands to the snippets of a set. */
export interface DescribedSighting {
  readonly row: SightingRow;
  readonly standing: Standing;
  readonly match: SightingMatch | undefined;
  readonly pages: SightingPages;
  /** Pages that matter: those where it is not ours, or all of them where it is ours everywhere. */
  readonly total: number;
  /** The first of these, for people. */
  readonly examples: readonly string[];
  readonly states: readonly ItemState[];
  /** The most frequent first. */
  readonly places: readonly ItemPlace[];
  readonly forms: readonly string[];
  /** Ids of the compositions of these pages. */
  readonly compositions: readonly number[];
}

const EXAMPLES = 3;
const UNMARKED = { ignored: null, adopted: null } as const;
const SURVEYS_KEPT = 50;
const DESCRIBED_KEPT = 100;

/**
 * What surveys saw, put beside the snippets. What a survey saw never changes once it is over, and sightings are few
 * beside the pages that they stand on, so a list of them costs no more than what it shows.
 */
export class SurveyBook {
  readonly #readers: Readers;
  readonly #seen = new LRUCache<number, Seen>({ max: SURVEYS_KEPT });
  readonly #traits = new LRUCache<number, readonly SeenTrait[]>({ max: SURVEYS_KEPT });
  readonly #described = new LRUCache<string, readonly DescribedSighting[]>({ max: DESCRIBED_KEPT });

  constructor(readers: Readers) {
    this.#readers = readers;
  }

  async seen(store: Store, survey: Survey): Promise<Seen> {
    const known = this.#seen.get(survey.id);
    if (known) return known;
    const seen = await composedPages(store, survey.id);
    if (survey.endedAt !== null) this.#seen.set(survey.id, seen);
    return seen;
  }

  /** What is unusual about its pages. */
  async traits(store: Store, survey: Survey): Promise<readonly SeenTrait[]> {
    const known = this.#traits.get(survey.id);
    if (known) return known;
    const traits = await traitsOf(store, survey.id);
    if (survey.endedAt !== null) this.#traits.set(survey.id, traits);
    return traits;
  }

  async describe(
    store: Store,
    site: { readonly id: number },
    survey: Survey,
    snapshot: Snapshot,
  ): Promise<readonly DescribedSighting[]> {
    const key = `${survey.id} ${snapshotDigest(snapshot)}`;
    const known = this.#described.get(key);
    if (known) return this.#marked(store, site, known);
    const seen = await this.seen(store, survey);
    const described = await this.#describe(store, site, survey, seen, snapshot);
    if (survey.endedAt !== null) this.#described.set(key, described);
    return described;
  }

  /** What somebody ignores or has adopted is read anew: it changes while all else stays. */
  async #marked(
    store: Store,
    site: { readonly id: number },
    described: readonly DescribedSighting[],
  ): Promise<readonly DescribedSighting[]> {
    const marks = await marksOf(store, site);
    return described.map((one) => {
      const { ignored, adopted } = marks.get(one.row.key) ?? UNMARKED;
      return { ...one, row: { ...one.row, ignored, adopted } };
    });
  }

  async #describe(
    store: Store,
    site: { readonly id: number },
    survey: Survey,
    seen: Seen,
    snapshot: Snapshot,
  ): Promise<readonly DescribedSighting[]> {
    const found = new Map(gatherSightings(seen.groups, seen.compositions).map((one) => [one.key, one]));
    const rows = await sightingsByKey(store, site, [...found.keys()]);
    const matches = await this.#readers.run('matchSightings', {
      snapshot,
      environment: survey.environment,
      sightings: rows.map((row) => ({ ...row, forms: found.get(row.key)!.forms })),
    });
    return rows.map((row, index) => {
      const one = found.get(row.key)!;
      const match = matches[index] ?? undefined;
      const pages = sightingPages(one, match?.part);
      const shown = one.others.pages > 0 ? one.others : one.ours;
      return {
        row,
        standing: standingOf(pages, match),
        match: match ?? oursMatch(one),
        pages,
        total: shown.pages,
        examples: shown.examples.slice(0, EXAMPLES),
        states: one.states,
        places: one.places,
        forms: one.forms,
        compositions: shown.compositions,
      };
    });
  }
}

/** What a part put there is a piece of it, though the snippet may have changed since. */
function oursMatch({ part }: SeenSighting): SightingMatch | undefined {
  return part === undefined || part === CARRIER_PART
    ? undefined
    : { snippet: snippetOfPart(part), part, kind: 'same' };
}
