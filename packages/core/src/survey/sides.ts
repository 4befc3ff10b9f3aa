import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import type { Composition } from './composition.js';
import { snippetOfPart } from '../snapshot/index.js';
import type { Sighting } from './sighting.js';
import { lazyTexts } from '../texts/lazy-texts.js';

/** Pages that stand on one composition where visitors ask, and on one at the site's own server. */
export interface PagesOfSides {
  readonly visitors: number;
  readonly origin: number;
  readonly pages: number;
  /** The first of them. */
  readonly example: string;
}

/** How many pages something is true of, and the first of them. */
export interface SomePages {
  readonly count: number;
  readonly example: string;
}

/** What visitors get, beside what the site's own server sends. */
export interface ComparedSides {
  readonly groups: readonly PagesOfSides[];
  readonly compositions: ReadonlyMap<number, Composition>;
  /** Of sightings by key. */
  readonly things: ReadonlyMap<string, Pick<Sighting, 'kind' | 'name' | 'loads'>>;
  /** Pages that come with another content policy. */
  readonly policies: SomePages;
  /** Pages of which other elements arrive than were sent, apart from our parts. */
  readonly skeletons: SomePages;
  readonly onlyVisitors: SomePages;
  readonly onlyOrigin: SomePages;
}

/** What becomes of something between the site's own server and visitors. */
export type OnTheWay = 'added' | 'removed' | 'rewritten';

export interface SideDifference extends SomePages {
  readonly what: OnTheWay;
  readonly sighting: string;
  readonly name: string;
}

export interface SidesReport {
  /** What Pragmatica adds: snippets, with their pages. */
  readonly ours: readonly { readonly snippet: string; readonly pages: number }[];
  /** What somebody in between does, most pages first. */
  readonly differences: readonly SideDifference[];
  /** The same and all else that differs, in words. */
  readonly lines: readonly string[];
}

/** Compares both sides of a site, page by page. */
export function compareSides(sides: ComparedSides): SidesReport {
  const ours = new Map<string, number>();
  const differences = new Map<string, SideDifference & { count: number }>();
  const tell = (what: OnTheWay, sighting: string, { pages, example }: PagesOfSides): void => {
    const known = differences.get(`${what} ${sighting}`);
    if (known) known.count += pages;
    else
      differences.set(`${what} ${sighting}`, {
        ...{ what, sighting, count: pages, example },
        name: sides.things.get(sighting)?.name || SURVEY_TEXTS.unnamedThing,
      });
  };
  for (const group of sides.groups) {
    const arrives = sides.compositions.get(group.visitors)!.items;
    const sent = sides.compositions.get(group.origin)!.items.map(({ sighting }) => sighting);
    for (const snippet of new Set(
      arrives.flatMap(({ part }) => (part === undefined ? [] : [snippetOfPart(part)])),
    ))
      ours.set(snippet, (ours.get(snippet) ?? 0) + group.pages);
    const others = arrives.flatMap(({ sighting, part }) => (part === undefined ? [sighting] : []));
    const added = without(others, sent);
    const removed = without(sent, others);
    for (const key of removed) {
      const twin = added.findIndex((one) => isAlike(sides.things.get(key), sides.things.get(one)));
      if (twin >= 0) added.splice(twin, 1);
      tell(twin >= 0 ? 'rewritten' : 'removed', key, group);
    }
    for (const key of added) tell('added', key, group);
  }
  const sorted = [...differences.values()].sort((a, b) => b.count - a.count);
  return {
    ours: [...ours].map(([snippet, pages]) => ({ snippet, pages })).sort((a, b) => b.pages - a.pages),
    differences: sorted,
    lines: linesOf(sorted, sides),
  };
}

/** What the first list has more of than the second; each once. */
function without(these: readonly string[], those: readonly string[]): string[] {
  const left = [...those];
  const more = these.filter((key) => {
    const at = left.indexOf(key);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
  return [...new Set(more)];
}

type Thing = Pick<Sighting, 'kind' | 'name' | 'loads'>;

/** Two that are most likely one, written anew. */
function isAlike(a: Thing | undefined, b: Thing | undefined): boolean {
  if (!a || !b || a.kind !== b.kind) return false;
  if (a.loads.length > 0 || b.loads.length > 0) return a.loads.join() === b.loads.join();
  return a.name !== '' && a.name === b.name;
}

const WORDS = lazyTexts({
  added: () => SURVEY_TEXTS.wayAdded,
  removed: () => SURVEY_TEXTS.wayRemoved,
  rewritten: () => SURVEY_TEXTS.wayRewritten,
});

function linesOf(differences: readonly SideDifference[], sides: ComparedSides): string[] {
  const some = (text: typeof SURVEY_TEXTS.wayPolicies, { count, example: page }: SomePages): string[] =>
    count === 0 ? [] : [say(text, { count, page })];
  const lines = [
    ...differences.map(({ what, name, count, example: page }) =>
      say(WORDS[what] as typeof SURVEY_TEXTS.wayAdded, { name, count, page }),
    ),
    ...some(SURVEY_TEXTS.wayPolicies, sides.policies),
    ...some(SURVEY_TEXTS.waySkeletons as typeof SURVEY_TEXTS.wayPolicies, sides.skeletons),
    ...some(SURVEY_TEXTS.wayOnlyVisitors as typeof SURVEY_TEXTS.wayPolicies, sides.onlyVisitors),
    ...some(SURVEY_TEXTS.wayOnlyOrigin as typeof SURVEY_TEXTS.wayPolicies, sides.onlyOrigin),
  ];
  return lines.length > 0 ? lines : [SURVEY_TEXTS.wayNothing];
}
