import type { SurveyResource } from '@pragmatica/contract';
import { ServiceError } from '../../errors.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { cutShapes, type CutShape } from '../../storage/survey-pages.js';
import { lastDoneSurvey, surveyByNumber, type Survey } from '../../storage/surveys.js';
import { sayIn } from '@pragmatica/core';
import { SURVEY_PROBLEMS, SURVEY_TEXTS } from '../../texts/survey.js';

/** How many of the shapes that were cut are told of. */
const MAX_SHAPES = 5;

/** A survey as the API shows it, with notes on what was left out. */
export async function surveyResource(store: Store, survey: Survey, locale: string): Promise<SurveyResource> {
  const [resource] = await surveyResources(store, [survey], locale);
  return resource!;
}

/** As `surveyResource`, of several. */
export async function surveyResources(
  store: Store,
  surveys: readonly Survey[],
  locale: string,
): Promise<SurveyResource[]> {
  const ids = surveys.map(({ id }) => id);
  const shapes = await cutShapes(store, ids);
  return surveys.map((survey) =>
    toResource(
      survey,
      shapes.filter((one) => one.survey === survey.id),
      locale,
    ),
  );
}

function toResource(survey: Survey, shapes: readonly CutShape[], locale: string): SurveyResource {
  const { number, host, environment, side, state, release, found, visited, failed, unchanged } = survey;
  return {
    ...{ number, host, environment, side, state, release, found, visited, failed, unchanged },
    after: survey.after,
    problem: problemWords(survey, locale),
    limit: survey.options.limit,
    ignoreRobots: survey.options.ignoreRobots,
    isGiven: survey.options.given !== undefined,
    notes: notesOf(survey, shapes, locale),
    requestedBy: survey.requestedBy,
    createdAt: survey.createdAt.toISOString(),
    startedAt: survey.startedAt?.toISOString() ?? null,
    endedAt: survey.endedAt?.toISOString() ?? null,
  };
}

function problemWords({ problem }: Survey, locale: string): string | null {
  if (problem === null) return null;
  const say = sayIn(locale);
  const text = SURVEY_PROBLEMS[problem.id as keyof typeof SURVEY_PROBLEMS];
  return say(
    text as (typeof SURVEY_PROBLEMS)['robots-unreachable'],
    problem.params as { address: string; status: number },
  );
}

function notesOf(survey: Survey, shapes: readonly CutShape[], locale: string): string[] {
  const say = sayIn(locale);
  const notes: string[] = [];
  const { options, robots, leftOut } = survey;
  if (options.ignoreRobots) notes.push(say(SURVEY_TEXTS.robotsIgnored, { by: survey.requestedBy }));
  if (robots?.kind === 'rules' && robots.delayMs > 0 && !options.ignoreRobots)
    notes.push(say(SURVEY_TEXTS.delayKept, { seconds: robots.delayMs / 1000 }));
  if (leftOut > 0) notes.push(say(SURVEY_TEXTS.limitReached, { limit: options.limit }));
  for (const { shape, most, found } of shapes.slice(0, MAX_SHAPES))
    notes.push(say(SURVEY_TEXTS.shapeCut, { shape, most, found }));
  if (shapes.length > MAX_SHAPES)
    notes.push(say(SURVEY_TEXTS.moreShapesCut, { count: shapes.length - MAX_SHAPES }));
  return notes;
}

/** What visitors get comes before what the site's own server sends. */
async function latestSurvey(store: Store, site: Site): Promise<Survey | undefined> {
  return (await lastDoneSurvey(store, site, { side: 'public' })) ?? lastDoneSurvey(store, site);
}

/** A survey of a site by its number, or the newest that came to its end. @throws ServiceError 404 */
export async function findSurvey(store: Store, site: Site, reference: 'latest' | number): Promise<Survey> {
  const survey =
    reference === 'latest' ? await latestSurvey(store, site) : await surveyByNumber(store, site, reference);
  if (survey) return survey;
  if (reference === 'latest') throw new ServiceError('no-survey-yet', { site: site.key });
  throw new ServiceError('no-such-survey', { site: site.key, number: reference });
}
