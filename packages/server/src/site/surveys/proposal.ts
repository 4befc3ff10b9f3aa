import { proposeAdoption, type AdoptionProposal } from '@pragmatica/core';
import type { Store } from '../../storage/store.js';
import { pathsOn } from '../../storage/survey-reads.js';
import type { Survey } from '../../storage/surveys.js';
import type { DescribedSighting } from './survey-book.js';

/** More pages than anybody makes page rules for by hand. */
const MAX_PAGES = 100_000;

/** How a sighting of a survey would be adopted. */
export async function proposalFor(
  store: Store,
  survey: Survey,
  { compositions, places }: DescribedSighting,
): Promise<AdoptionProposal> {
  const [pages, known] = await Promise.all([
    pathsOn(store, survey.id, compositions, MAX_PAGES),
    pathsOn(store, survey.id, undefined, MAX_PAGES),
  ]);
  return proposeAdoption(places, pages, known);
}
