import {
  dateWords,
  dayAt,
  fileDifference,
  surveyDifference,
  unchangedWords,
  type SeenThing,
} from '@pragmatica/core';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { filesOf } from '../../storage/survey-files.js';
import { pathsOnlyIn, sightingsByKey } from '../../storage/survey-reads.js';
import { lastDoneSurvey, type Survey } from '../../storage/surveys.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { toFileVersion } from '../../survey/read-files.js';
import type { SiteSurveys } from './site-surveys.js';

const MAX_PATHS = 500;

/** What differs from the survey of the same host and side before. */
export async function showChanges(surveys: SiteSurveys, store: Store, site: Site, survey: Survey) {
  const { environment, host, side, number } = survey;
  const before = await lastDoneSurvey(store, site, { environment, host, side, before: number });
  if (!before) return { from: null, to: number, lines: [], newPages: [], gonePages: [] };
  const [newPages, gonePages, was, is, oldFiles, files] = await Promise.all([
    pathsOnlyIn(store, survey.id, before.id, MAX_PATHS),
    pathsOnlyIn(store, before.id, survey.id, MAX_PATHS),
    thingsOf(surveys, store, site, before),
    thingsOf(surveys, store, site, survey),
    filesOf(store, before.id),
    filesOf(store, survey.id),
  ]);
  const lines = surveyDifference({
    newPages: { count: newPages.length, examples: newPages },
    gonePages: { count: gonePages.length, examples: gonePages },
    before: was,
    after: is,
  });
  lines.push(
    ...fileDifference(oldFiles.map(toFileVersion), files.map(toFileVersion), (at) =>
      dateWords(dayAt(at.getTime(), site.timeZone)),
    ),
  );
  const said = lines.length > 0 ? lines : [unchangedWords(before.number)];
  return { from: before.number, to: number, lines: said, newPages, gonePages };
}

/** What is not ours, with the sections that it is in. */
export async function thingsOf(
  { book }: SiteSurveys,
  store: Store,
  site: Site,
  survey: Survey,
): Promise<SeenThing[]> {
  const { groups, compositions } = await book.seen(store, survey);
  const found = new Map<string, { sections: Map<string, number>; example: string }>();
  for (const { composition, section, pages, examples } of groups) {
    const keys = new Set(
      compositions
        .get(composition)!
        .items.flatMap(({ sighting, part }) => (part === undefined ? [sighting] : [])),
    );
    for (const key of keys) {
      const thing = found.get(key) ?? { sections: new Map<string, number>(), example: examples[0]! };
      thing.sections.set(section, (thing.sections.get(section) ?? 0) + pages);
      found.set(key, thing);
    }
  }
  const rows = await sightingsByKey(store, site, [...found.keys()]);
  return rows.map(({ key, name }) => ({ key, name: name || SURVEY_TEXTS.unnamed, ...found.get(key)! }));
}
