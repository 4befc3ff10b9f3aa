import { compareSides } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { pagesOfSides, pagesOnlyIn, pagesThatDiffer, sightingsByKey } from '../../storage/survey-reads.js';
import { lastDoneSurvey, type Survey } from '../../storage/surveys.js';
import type { SiteSurveys } from './site-surveys.js';

/**
 * What visitors get beside what the site's own server sends, as the newest surveys of both saw it.
 *
 * @param survey - of either side; the other one is the newest of the same host
 * @throws ServiceError 404 where the other side was not surveyed yet
 */
export async function showSides({ book, sets }: SiteSurveys, store: Store, site: Site, survey: Survey) {
  const { host, environment } = survey;
  const side = survey.side === 'public' ? 'origin' : 'public';
  const other = await lastDoneSurvey(store, site, { host, environment, side });
  if (!other) throw new ServiceError('side-not-surveyed', { host, side });
  const [visitors, origin] = survey.side === 'public' ? [survey, other] : [other, survey];
  const [seen, sent, groups, policies, skeletons, onlyVisitors, onlyOrigin] = await Promise.all([
    book.seen(store, visitors),
    book.seen(store, origin),
    pagesOfSides(store, visitors.id, origin.id),
    pagesThatDiffer(store, visitors.id, origin.id, 'policies_id'),
    pagesThatDiffer(store, visitors.id, origin.id, 'skeleton_id'),
    pagesOnlyIn(store, visitors.id, origin.id),
    pagesOnlyIn(store, origin.id, visitors.id),
  ]);
  const compositions = new Map([...seen.compositions, ...sent.compositions]);
  const keys = new Set(
    [...compositions.values()].flatMap(({ items }) => items.map(({ sighting }) => sighting)),
  );
  const rows = await sightingsByKey(store, site, [...keys]);
  const report = compareSides({
    groups,
    compositions,
    things: new Map(rows.map((row) => [row.key, row])),
    ...{ policies, skeletons, onlyVisitors, onlyOrigin },
  });
  const { snapshot } = await sets.draft(store, site);
  const names = new Map(snapshot.snippets.map(({ key, name }) => [key, name]));
  const ids = new Map(rows.map(({ key, id }) => [key, id]));
  return {
    public: visitors.number,
    origin: origin.number,
    // One that is gone from the draft is known by its key only.
    ours: report.ours.map((one) => ({ ...one, name: names.get(one.snippet) ?? one.snippet })),
    differences: report.differences.map(({ what, sighting, name, count, example }) => ({
      ...{ what, name, pages: count, example },
      sighting: ids.get(sighting) ?? null,
    })),
    lines: [...report.lines],
  };
}
