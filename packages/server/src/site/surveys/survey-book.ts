import {
  snapshotDigest,
  standingOf,
  type ItemPlace,
  type ItemState,
  type SightingMatch,
  type SightingPages,
  type Snapshot,
  type Standing,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { Readers } from '../../reading/readers.js';
import type { Store } from '../../storage/store.js';
import type { Composition } from '../../storage/survey-contents.js';
import {
  composedPages,
  sightingsByKey,
  type ComposedPages,
  type SightingRow,
} from '../../storage/survey-reads.js';
import type { Survey } from '../../storage/surveys.js';

/** What a survey saw, by composition. */
export interface Seen {
  readonly groups: readonly ComposedPages[];
  readonly compositions: ReadonlyMap<number, Composition>;
}

/** A sighting of a survey, with how it stands to the snippets of a set. */
export interface DescribedSighting {
  readonly row: SightingRow;
  readonly standing: Standing;
  readonly match: SightingMatch | undefined;
  readonly pages: SightingPages;
  /** Pages that matter: those where it is not ours, or all of them where it is ours everywhere. */
  readonly total: number;
  /** The first of these. */
  readonly examples: readonly string[];
  readonly states: readonly ItemState[];
  /** The most frequent first. */
  readonly places: readonly ItemPlace[];
  readonly forms: readonly string[];
  /** Ids of the compositions of these pages. */
  readonly compositions: readonly number[];
}

const SURVEYS_KEPT = 50;
const DESCRIBED_KEPT = 100;
const EXAMPLES = 3;

/**
 * What surveys saw, put beside the snippets. What a survey saw never changes once it is over, and sightings are few
 * beside the pages that they stand on, so a list of them costs no more than what it shows.
 */
export class SurveyBook {
  readonly #readers: Readers;
  readonly #seen = new LRUCache<number, Seen>({ max: SURVEYS_KEPT });
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
    const rows = await sightingsByKey(
      store,
      site,
      described.map(({ row }) => row.key),
    );
    const byKey = new Map(rows.map((row) => [row.key, row]));
    return described.map((one) => ({ ...one, row: byKey.get(one.row.key) ?? one.row }));
  }

  async #describe(
    store: Store,
    site: { readonly id: number },
    survey: Survey,
    seen: Seen,
    snapshot: Snapshot,
  ): Promise<readonly DescribedSighting[]> {
    const found = gather(seen);
    const rows = await sightingsByKey(store, site, [...found.keys()]);
    const matches = await this.#readers.run('matchSightings', {
      snapshot,
      environment: survey.environment,
      sightings: rows.map((row) => ({ ...row, forms: [...found.get(row.key)!.forms] })),
    });
    return rows.map((row, index) => {
      const gathered = found.get(row.key)!;
      const match = matches[index] ?? undefined;
      const pages = {
        ours: gathered.ours.pages,
        others: gathered.others.pages,
        twice: gathered.twice,
        instead: match ? (gathered.without.get(match.part) ?? 0) : 0,
      };
      const shown = gathered.others.pages > 0 ? gathered.others : gathered.ours;
      return {
        row,
        standing: standingOf(pages, match),
        match: match ?? oursMatch(gathered),
        pages,
        total: shown.pages,
        examples: shown.examples,
        states: [...gathered.states],
        places: [...gathered.places].sort(([, a], [, b]) => b - a).map(([place]) => place),
        forms: [...gathered.forms],
        compositions: [...shown.compositions],
      };
    });
  }
}

interface Standings {
  pages: number;
  readonly examples: string[];
  readonly compositions: Set<number>;
}

interface Gathered {
  readonly ours: Standings;
  readonly others: Standings;
  twice: number;
  /** By part: pages on which it stands as somebody else's while the part is missing. */
  readonly without: Map<string, number>;
  readonly states: Set<ItemState>;
  readonly places: Map<ItemPlace, number>;
  readonly forms: Set<string>;
  part: string | undefined;
}

/** Sightings with the pages that they are on, from compositions and how many pages stand on each. */
function gather({ groups, compositions }: Seen): Map<string, Gathered> {
  const found = new Map<string, Gathered>();
  for (const { composition: id, pages, examples } of groups) {
    const composition = compositions.get(id)!;
    const here = new Map<string, { ours: boolean; others: boolean }>();
    for (const { sighting, form, state, place, part } of composition.items) {
      const one = found.get(sighting) ?? newGathered();
      found.set(sighting, one);
      one.states.add(state);
      one.forms.add(form);
      one.places.set(place, (one.places.get(place) ?? 0) + pages);
      one.part ??= part;
      const on = here.get(sighting) ?? { ours: false, others: false };
      here.set(sighting, part === undefined ? { ...on, others: true } : { ...on, ours: true });
    }
    for (const [sighting, { ours, others }] of here) {
      const one = found.get(sighting)!;
      if (ours) count(one.ours, id, pages, examples);
      if (!others) continue;
      count(one.others, id, pages, examples);
      if (ours) one.twice += pages;
      for (const part of composition.missing) one.without.set(part, (one.without.get(part) ?? 0) + pages);
    }
  }
  return found;
}

function count(standings: Standings, composition: number, pages: number, examples: readonly string[]): void {
  standings.pages += pages;
  standings.compositions.add(composition);
  if (standings.examples.length < EXAMPLES)
    standings.examples.push(...examples.slice(0, EXAMPLES - standings.examples.length));
}

function newGathered(): Gathered {
  return {
    ours: newStandings(),
    others: newStandings(),
    twice: 0,
    without: new Map(),
    states: new Set(),
    places: new Map(),
    forms: new Set(),
    part: undefined,
  };
}

function newStandings(): Standings {
  return { pages: 0, examples: [], compositions: new Set() };
}

/** What a part put there is a piece of it, though the snippet may have changed since. */
function oursMatch({ part }: Gathered): SightingMatch | undefined {
  return part === undefined ? undefined : { snippet: part.replace(/\/\d+$/, ''), part, kind: 'same' };
}
