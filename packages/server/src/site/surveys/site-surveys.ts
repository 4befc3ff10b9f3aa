import { ServiceError } from '../../errors.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import type { Survey } from '../../storage/surveys.js';
import type { Sets } from '../sets.js';
import type { DescribedSighting, SurveyBook } from './survey-book.js';

/** What surveys saw, beside the drafts of their sites. */
export class SiteSurveys {
  constructor(
    readonly book: SurveyBook,
    readonly sets: Sets,
  ) {}

  /** The sightings of a survey, as they stand to the site's draft. */
  async described(store: Store, site: Site, survey: Survey): Promise<readonly DescribedSighting[]> {
    const { snapshot } = await this.sets.draft(store, site);
    return this.book.describe(store, site, survey, snapshot);
  }

  /** One of them. @throws ServiceError 404 */
  async sighting(store: Store, site: Site, survey: Survey, id: number): Promise<DescribedSighting> {
    const found = (await this.described(store, site, survey)).find(({ row }) => row.id === id);
    if (!found) throw new ServiceError('no-such-sighting', { id, number: survey.number });
    return found;
  }
}
