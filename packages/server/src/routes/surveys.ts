import type { HandlersOf, RequestContext } from '../http/context.js';
import { numberPosition, pagePosition } from '../http/page-position.js';
import type { JobQueue } from '../jobs/queue.js';
import { watchSurvey } from '../jobs/watch-survey.js';
import { findSite } from '../site/site-lock.js';
import { adoptSighting, ignoreSighting } from '../site/surveys/adopt.js';
import { givePages } from '../site/surveys/give-pages.js';
import { showChanges } from '../site/surveys/changes.js';
import { showCoverage } from '../site/surveys/coverage.js';
import { showFirstLook } from '../site/surveys/first-look.js';
import { listPagesOf, showPage } from '../site/surveys/pages.js';
import { listSightings, showSighting } from '../site/surveys/sightings.js';
import { showSides } from '../site/surveys/sides.js';
import type { SiteSurveys } from '../site/surveys/site-surveys.js';
import { cancelSurvey, startSurvey } from '../site/surveys/start-survey.js';
import { findSurvey, surveyResource, surveyResources } from '../site/surveys/survey-resource.js';
import { toPage } from '../storage/cursor.js';
import { surveysOf } from '../storage/surveys.js';

interface OfSurvey {
  readonly site: string;
  readonly survey: 'latest' | number;
}

async function found({ site: key, survey }: OfSurvey, { store }: RequestContext) {
  const site = await findSite(store, key);
  return { site, survey: await findSurvey(store, site, survey) };
}

export function surveyHandlers(
  surveys: SiteSurveys,
  queue: Pick<JobQueue, 'send'>,
): HandlersOf<
  | 'startSurvey'
  | 'givePages'
  | 'listSurveys'
  | 'showSurvey'
  | 'watchSurvey'
  | 'cancelSurvey'
  | 'showSurveyChanges'
  | 'showSides'
  | 'listSurveyPages'
  | 'showSurveyPage'
  | 'showFirstLook'
  | 'listSightings'
  | 'showCoverage'
  | 'showSighting'
  | 'adoptSighting'
  | 'ignoreSighting'
  | 'heedSighting'
> {
  return {
    async startSurvey({ params, body }, context) {
      const survey = await startSurvey(params.site, body, context);
      await queue.send('survey', { survey: survey.id });
      return {
        data: await surveyResource(context.store, survey, context.locale),
        location: `/api/v1/sites/${params.site}/surveys/${survey.number}`,
      };
    },

    async givePages({ params, body }, context) {
      await givePages(params.site, params.set, body, context);
      return { data: undefined };
    },

    async listSurveys({ params, query: { limit, after } }, { store, locale }) {
      const site = await findSite(store, params.site);
      const rows = await surveysOf(store, site, limit + 1, numberPosition(after)?.[0]);
      const { page, next } = toPage(rows, limit, ({ number }) => [number]);
      return { data: { items: await surveyResources(store, page, locale), next } };
    },

    async showSurvey({ params }, context) {
      const { survey } = await found(params, context);
      return { data: await surveyResource(context.store, survey, context.locale) };
    },

    watchSurvey({ params }, { store, locale }) {
      return watchSurvey({ ...params, locale }, store);
    },

    async cancelSurvey({ params }, context) {
      const survey = await cancelSurvey(params.site, params.survey, context);
      return { data: await surveyResource(context.store, survey, context.locale) };
    },

    async showSurveyChanges({ params }, context) {
      const { site, survey } = await found(params, context);
      return { data: await showChanges(surveys, context.store, site, survey) };
    },

    async showSides({ params }, context) {
      const { site, survey } = await found(params, context);
      return { data: await showSides(surveys, context.store, site, survey) };
    },

    async listSurveyPages({ params, query: { after, ...query } }, context) {
      const { site, survey } = await found(params, context);
      const listing = { ...query, after: pagePosition(after, [''] as readonly [path: string]) };
      return { data: await listPagesOf(surveys, context.store, site, survey, listing) };
    },

    async showSurveyPage({ params, query }, context) {
      const { site, survey } = await found(params, context);
      return { data: await showPage(surveys, context.store, site, survey, query.path) };
    },

    async showFirstLook({ params }, context) {
      const { site, survey } = await found(params, context);
      return { data: await showFirstLook(surveys, context.store, site, survey) };
    },

    async listSightings({ params, query: { after, ...query } }, context) {
      const { site, survey } = await found(params, context);
      const listing = { ...query, after: numberPosition(after) };
      const listed = await listSightings(surveys, context.store, site, survey, listing);
      return {
        data: { ...listed, survey: await surveyResource(context.store, survey, context.locale) },
      };
    },

    async showCoverage({ params }, context) {
      const { site, survey } = await found(params, context);
      const coverage = await showCoverage(surveys, context.store, site, survey);
      return {
        data: { ...coverage, survey: await surveyResource(context.store, survey, context.locale) },
      };
    },

    async showSighting({ params }, context) {
      const { site, survey } = await found({ ...params, survey: 'latest' }, context);
      return { data: await showSighting(surveys, context.store, site, survey, params.sighting) };
    },

    async adoptSighting({ params, body }, context) {
      const { site, survey } = await found({ ...params, survey: 'latest' }, context);
      const data = await adoptSighting(surveys, site, survey, params.sighting, body, context);
      return { data, location: `/api/v1/sites/${params.site}/snippets/${data.snippet}` };
    },

    async ignoreSighting({ params, body }, context) {
      await ignoreSighting(params.site, params.sighting, body.reason, context);
      return { data: undefined };
    },

    async heedSighting({ params }, context) {
      await ignoreSighting(params.site, params.sighting, null, context);
      return { data: undefined };
    },
  };
}
