import type { ComposedPages, Composition } from './composition.js';
import type { SightingPages } from './standing.js';
import type { ItemPlace, ItemState } from './types.js';

/** Pages on which something stands. */
export interface StandingPages {
  readonly pages: number;
  /** Some of them: the first, and at least one of most makes. */
  readonly examples: readonly string[];
  /** Ids of their compositions. */
  readonly compositions: readonly number[];
}

/** Where a sighting stands, and whose it is there. */
export interface SeenSighting {
  readonly key: string;
  /** As a piece of a part of ours. */
  readonly ours: StandingPages;
  /** Otherwise. */
  readonly others: StandingPages;
  /** Pages on which it is both. */
  readonly twice: number;
  /** By part: pages on which it stands otherwise while the part is missing. */
  readonly without: ReadonlyMap<string, number>;
  readonly states: readonly ItemState[];
  /** The most frequent first. */
  readonly places: readonly ItemPlace[];
  /** Digests of the ways in which it is written. */
  readonly forms: readonly string[];
  /** A part of ours that it is a piece of somewhere. */
  readonly part: string | undefined;
}

/** What matters of it for `standingOf`. @param part - the part that it matches, if it matches one */
export function sightingPages(seen: SeenSighting, part: string | undefined): SightingPages {
  return {
    ours: seen.ours.pages,
    others: seen.others.pages,
    twice: seen.twice,
    instead: part === undefined ? 0 : (seen.without.get(part) ?? 0),
  };
}

/** Enough that a rule which holds some of the pages holds one of these. */
const EXAMPLES = 60;

interface Gathering {
  pages: number;
  readonly examples: string[];
  readonly compositions: Set<number>;
}

interface Gathered {
  readonly ours: Gathering;
  readonly others: Gathering;
  twice: number;
  /** By part: pages on which it stands as somebody else's while the part is missing. */
  readonly without: Map<string, number>;
  readonly states: Set<ItemState>;
  readonly places: Map<ItemPlace, number>;
  readonly forms: Set<string>;
  part: string | undefined;
}

/** Sightings with the pages that they are on, from compositions and how many pages stand on each. */
export function gatherSightings(
  groups: readonly ComposedPages[],
  compositions: ReadonlyMap<number, Composition>,
): SeenSighting[] {
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
  return [...found].map(([key, one]) => ({
    key,
    ours: toPages(one.ours),
    others: toPages(one.others),
    twice: one.twice,
    without: one.without,
    states: [...one.states],
    places: [...one.places].sort(([, a], [, b]) => b - a).map(([place]) => place),
    forms: [...one.forms],
    part: one.part,
  }));
}

function toPages({ pages, examples, compositions }: Gathering): StandingPages {
  return { pages, examples, compositions: [...compositions] };
}

function count(standings: Gathering, composition: number, pages: number, examples: readonly string[]): void {
  standings.pages += pages;
  standings.compositions.add(composition);
  if (standings.examples.length < EXAMPLES)
    standings.examples.push(...examples.slice(0, EXAMPLES - standings.examples.length));
}

function newGathered(): Gathered {
  return {
    ours: newGathering(),
    others: newGathering(),
    twice: 0,
    without: new Map(),
    states: new Set(),
    places: new Map(),
    forms: new Set(),
    part: undefined,
  };
}

function newGathering(): Gathering {
  return { pages: 0, examples: [], compositions: new Set() };
}
