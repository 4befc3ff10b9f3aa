import { setTimeout as sleep } from 'node:timers/promises';
import type { SurveyEvent } from '@pragmatica/contract';
import { findSite } from '../site/site-lock.js';
import { findSurvey, surveyResource } from '../site/surveys/survey-resource.js';
import type { Store } from '../storage/store.js';

export interface WatchInput {
  readonly site: string;
  readonly survey: 'latest' | number;
  readonly locale: string;
}

const EVERY_MS = 400;

/** Tells how far a survey is whenever it got further, until it is over. Workers may be anywhere: the row is what they share. */
export async function* watchSurvey(
  { site: key, survey: reference, locale }: WatchInput,
  root: Store,
): AsyncGenerator<SurveyEvent> {
  let last = '';
  for (;;) {
    // What one unit of work has read once it does not read again.
    const store = root.fork();
    const site = await findSite(store, key);
    const survey = await findSurvey(store, site, reference);
    const { state, visited, found } = survey;
    const told = `${state} ${visited} ${found}`;
    if (told !== last) yield { type: 'progress', survey: await surveyResource(store, survey, locale) };
    if (state !== 'waiting' && state !== 'running') return;
    last = told;
    await sleep(EVERY_MS);
  }
}
