import type { FirstLookResource } from '@pragmatica/contract';
import { firstLook } from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import type { Survey } from '../../storage/surveys.js';
import { isOwnFile } from './sightings.js';
import type { SiteSurveys } from './site-surveys.js';

/** What a survey saw of a site, for its owner. */
export async function showFirstLook(
  surveys: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
): Promise<FirstLookResource> {
  const all = await surveys.described(store, site, survey);
  const traits = await surveys.book.traits(store, survey);
  const lines = firstLook({
    pages: survey.visited - survey.failed,
    failed: survey.failed,
    hasMore: survey.leftOut > 0,
    things: all
      .filter((one) => one.standing !== 'ours' && !isOwnFile(one))
      .map(({ row: { name, provider, shape }, total }) => ({ name, provider, shape, pages: total })),
    withPolicy: traits.find(({ trait }) => trait === 'policy')?.pages ?? 0,
  });
  return { survey: survey.number, host: survey.host, environment: survey.environment, lines };
}
