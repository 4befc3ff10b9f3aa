import { removeGivenPages } from '../storage/given-pages.js';
import { siteById } from '../storage/sites.js';
import { sweepSurveys, surveyById, type Survey } from '../storage/surveys.js';
import { audit } from '../storage/trail.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import type { SurveyTools } from './tools.js';

/** Surveys of a host that are kept, the newest. */
const KEPT = 12;

/** Tells the trail that a survey is done, so that whatever stands on what is known of the pages is worked out again. */
export async function finishSurvey({ id, siteId }: Survey, { store }: SurveyTools): Promise<void> {
  await store.fork().transactional(async (transaction) => {
    const survey = await surveyById(transaction, id);
    const site = await siteById(transaction, siteId);
    if (!survey || !site) return;
    const { number, host, visited, failed } = survey;
    const said = (): string => say(SURVEY_TEXTS.surveyDone, { number, host, visited, failed });
    audit(transaction, site, survey.requestedBy, 'survey', said);
    await transaction.flush();
    if (survey.options.given !== undefined) await removeGivenPages(transaction, site, survey.options.given);
    await sweepSurveys(transaction, siteId, KEPT);
  });
}
