import type { SurveyInput } from '@pragmatica/contract';
import { READER_VERSION } from '@pragmatica/core';
import { ServiceError, errorAt } from '../../errors.js';
import { hostsOf } from '../../storage/hosts.js';
import { pointerOf } from '../../storage/pointers.js';
import { givenPaths } from '../../storage/given-pages.js';
import type { Host, Site } from '../../storage/rows.js';
import {
  addSurvey,
  endFollowers,
  endSurvey,
  openSurvey,
  type Survey,
  type SurveySide,
} from '../../storage/surveys.js';
import { audit } from '../../storage/trail.js';
import { surveyBase } from '../../survey/survey-base.js';
import { say } from '../../texts/say.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { chooseHost } from '../choose-host.js';
import { findSite, withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';
import { findSurvey } from './survey-resource.js';

/** A survey as it is asked for, with what was left out filled in. Of both sides the site's own server is asked second. */
export type SurveyRequest = Required<Omit<SurveyInput, 'host' | 'given'>> &
  Pick<SurveyInput, 'host' | 'given'>;

/**
 * Puts a survey in line; workers do the rest.
 *
 * @param isPlanned - nobody asked for it: its time had come
 * @returns the survey; of both sides the one that goes first
 * @throws ServiceError 404 for a host that is none of the site's, 409 while another of the same host is under way
 */
export async function startSurvey(
  key: string,
  { environment, host: named, side, ...options }: SurveyRequest,
  { store, actor }: Acting,
  isPlanned = false,
): Promise<Survey> {
  return withSiteLock(store, key, async (transaction, site) => {
    const host = chooseHost(await hostsOf(transaction, site), key, environment, named);
    await assertGiven(transaction, site, side, options.given);
    const begun: Survey[] = [];
    for (const one of sidesOf(host, side)) {
      const other = await openSurvey(transaction, site, host.host, one);
      if (other) throw new ServiceError('survey-under-way', { host: host.host, number: other.number });
      // Without the gateway, or before it, pages hold nothing that was published.
      const pointer = one === 'public' ? await pointerOf(transaction, site, host.environment) : undefined;
      const survey = await addSurvey(transaction, site, {
        host: host.host,
        environment: host.environment,
        side: one,
        options: { ...options, delivery: host.delivery, ...(isPlanned ? { isPlanned } : {}) },
        release: pointer?.release.number ?? null,
        reader: READER_VERSION,
        after: begun[0]?.number ?? null,
        requestedBy: actor,
      });
      begun.push(survey);
      const text = options.ignoreRobots ? 'surveyStartedAll' : 'surveyStarted';
      audit(transaction, site, actor, 'survey.start', () =>
        say(SURVEY_TEXTS[text], { number: survey.number, host: host.host }),
      );
    }
    await transaction.flush();
    return begun[0]!;
  });
}

/** Pages that were handed over are there, and of one side. */
async function assertGiven(
  store: Acting['store'],
  site: Site,
  side: SurveyRequest['side'],
  given: string | undefined,
): Promise<void> {
  if (given === undefined) return;
  if (side === 'both') throw errorAt('/side', 'given-pages-of-both', {});
  const [first] = await givenPaths(store, site, given, 1);
  if (first === undefined) throw errorAt('/given', 'no-pages-given', {});
}

/** Where nothing stands between visitors and the site's own server, both sides are one. */
function sidesOf(host: Host, side: SurveyRequest['side']): readonly SurveySide[] {
  if (side !== 'both') return [side];
  const [visitors, origin] = (['public', 'origin'] as const).map((one) => surveyBase(host, one, {}).address);
  return visitors === origin ? ['public'] : ['public', 'origin'];
}

/** Ends a survey that is not over. @throws ServiceError 404 */
export async function cancelSurvey(
  key: string,
  reference: 'latest' | number,
  { store, actor }: Acting,
): Promise<Survey> {
  const site = await findSite(store, key);
  const survey = await findSurvey(store, site, reference);
  if (await endSurvey(store, survey.id, 'cancelled')) {
    await endFollowers(store, survey);
    const { number, host } = survey;
    audit(store, site, actor, 'survey.cancel', () => say(SURVEY_TEXTS.surveyCancelled, { number, host }));
    await store.flush();
  }
  return findSurvey(store, site, survey.number);
}
