import {
  isSurveyNews,
  momentWords,
  surveyNewsOf,
  surveyNoticeOf,
  type ForeignThing,
  type SeenThing,
} from '@pragmatica/core';
import { siteById } from '../../storage/sites.js';
import type { Store } from '../../storage/store.js';
import { ignoredKeys, lostPages } from '../../storage/survey-reads.js';
import { claimTelling, lastPlannedSurvey, type Survey } from '../../storage/surveys.js';
import { thingsOf } from '../surveys/changes.js';
import type { SiteSurveys } from '../surveys/site-surveys.js';
import { tell } from './notices.js';

const MAX_PAGES = 1_000;

/**
 * Tells what a survey that began by itself found new in the site: scripts of somebody else's, pages that are gone or do not answer.
 * Once, whoever worked on it. It is held against the last one that began by itself: what somebody asked for in between was
 * told to nobody. The first has nothing to be held against.
 *
 * @param base - where people reach the console
 */
export async function tellSurveyNews(
  surveys: SiteSurveys,
  store: Store,
  survey: Survey,
  base: string,
): Promise<void> {
  const { id, siteId, environment, host, number, options, leftOut } = survey;
  // Of both sides, what visitors get is told.
  if (survey.state !== 'done' || options.isPlanned !== true || survey.after !== null) return;
  const site = await siteById(store, siteId);
  const before = site && (await lastPlannedSurvey(store, site, survey));
  if (!site || !before) return;
  const [was, is, lost, ignored] = await Promise.all([
    thingsOf(surveys, store, site, before),
    thingsOf(surveys, store, site, survey),
    lostPages(store, before.id, id, MAX_PAGES),
    ignoredKeys(store, site),
  ]);
  const news = surveyNewsOf({
    ...{ before: was.map(toForeign), after: is.map(toForeign), lost, ignored },
    isCut: leftOut > 0,
    wasCut: before.leftOut > 0 && survey.visited > before.visited,
  });
  if (!isSurveyNews(news)) return;
  const address = `${base}/sites/${site.key}/survey/history`;
  const ended = survey.endedAt?.getTime() ?? Date.now();
  await store.transactional(async (transaction) => {
    if (!(await claimTelling(transaction, survey))) return;
    await tell(transaction, site, () => ({
      ...surveyNoticeOf(news, {
        ...{ site: site.name, host, address, before: before.number },
        moment: momentWords(ended, site.timeZone),
      }),
      type: 'pages.changed',
      data: {
        ...{ host, environment, survey: number, before: before.number },
        appeared: news.appeared.map(({ name, pages, example }) => ({ name, pages, example })),
        ...{ gone: news.gone, failing: news.failing, address },
      },
    }));
    await transaction.flush();
  });
}

function toForeign({ key, name, sections, example }: SeenThing): ForeignThing {
  return { key, name, example, pages: [...sections.values()].reduce((sum, count) => sum + count, 0) };
}
