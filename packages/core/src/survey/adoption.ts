import { pageRulesWords, type PageRules } from '../reach/index.js';
import type { NamedPlacement } from '../insert/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import { shortestPageRules } from './page-patterns.js';
import type { ItemPlace, ItemState } from './types.js';

/** How a sighting would become a snippet. */
export interface AdoptionProposal {
  readonly placement: NamedPlacement;
  readonly rules: PageRules;
  /** Where in the site it stands now, and so where to remove it. */
  readonly removal: string;
}

const PLACEMENTS: Readonly<Record<ItemPlace, NamedPlacement>> = {
  head: 'head-end',
  'body-start': 'body-start',
  body: 'body-end',
  'body-end': 'body-end',
};

/** The placement nearest to where something stands. @param places - the most frequent first */
export function placementFor(places: readonly ItemPlace[]): NamedPlacement {
  return PLACEMENTS[places[0] ?? 'body-end'];
}

/** What a part has to hold so that it does what stands in the pages. @param states - of the thing, on whichever page */
export function codeToAdopt(code: string, states: readonly ItemState[]): string {
  // What only browsers without scripts use stands there by itself, without the element around it.
  return states.length > 0 && states.every((state) => state === 'noscript')
    ? `<noscript>${code}</noscript>`
    : code;
}

/**
 * @param places - where it stands, the most frequent first
 * @param pages - on which it stands
 * @param known - all pages that can hold it
 */
export function proposeAdoption(
  places: readonly ItemPlace[],
  pages: readonly string[],
  known: readonly string[],
): AdoptionProposal {
  const rules = shortestPageRules(pages, known);
  return {
    placement: placementFor(places),
    rules,
    removal: removalWords(pages, known, rules),
  };
}

function removalWords(pages: readonly string[], known: readonly string[], rules: PageRules): string {
  if (pages.length === 1 && known.length > 1) return say(SURVEY_TEXTS.removeFromPage, { page: pages[0]! });
  if (pages.length === known.length) return say(SURVEY_TEXTS.removeFromAll, { count: pages.length });
  const words = pageRulesWords(rules).replace(/^on /, '');
  return say(SURVEY_TEXTS.removeFromPages, { count: pages.length, words });
}
