import { ReleasePlanner, pageOf, type DeliveryKey } from '@pragmatica/core';
import { hostsOf } from '../storage/hosts.js';
import { releaseByNumber, releaseSnapshot } from '../storage/releases.js';
import type { Site } from '../storage/rows.js';
import { siteById } from '../storage/sites.js';
import { addPages, readPaths, type FoundBy } from '../storage/survey-pages.js';
import {
  beginSurvey,
  endSurvey,
  lastDoneSurvey,
  saveRobots,
  surveyById,
  type Survey,
} from '../storage/surveys.js';
import { AccessRefusedError } from '../outgoing/form-login.js';
import { GivenSite } from '../outgoing/given-site.js';
import type { SiteAsker } from '../outgoing/site-client.js';
import { givenPaths } from '../storage/given-pages.js';
import { askRobots, robotsRules } from './robots.js';
import { withinShapes } from './save-visits.js';
import { sitemapPages } from './sitemaps.js';
import { surveyBase, type SurveyBase } from './survey-base.js';
import type { SurveyTools } from './tools.js';
import { PlannedParts } from './visit-page.js';

/** A survey that is under way, with what each of its workers needs to know. */
export interface OpenSurvey {
  readonly survey: Survey;
  readonly base: SurveyBase;
  /** Who answers for its pages. */
  readonly pages: SiteAsker;
  readonly plans: PlannedParts | undefined;
  /** The survey whose validators may be used. */
  readonly before: number | undefined;
}

/** @returns undefined where it is over, or its host is gone: then it has ended */
export async function resumeSurvey(
  id: number,
  { store, client }: SurveyTools,
): Promise<OpenSurvey | undefined> {
  const survey = await surveyById(store, id);
  if (!survey || (survey.state !== 'waiting' && survey.state !== 'running')) return undefined;
  const site = await siteById(store, survey.siteId);
  const host = site && (await hostsOf(store, site)).find((one) => one.host === survey.host);
  if (!site || !host) {
    await endSurvey(store, id, 'failed', { id: 'survey-host-gone', params: { host: survey.host } });
    return undefined;
  }
  const { given } = survey.options;
  let access: Readonly<Record<string, string>> = {};
  try {
    if (given === undefined) access = await client.access(store, site, host);
  } catch (error) {
    if (!(error instanceof AccessRefusedError)) throw error;
    await endSurvey(store, id, 'failed', { id: `access-${error.why}`, params: { host: host.host } });
    return undefined;
  }
  return {
    survey,
    base: surveyBase(host, survey.side, access),
    pages: given === undefined ? client : new GivenSite(store, site, given),
    plans: await plansOf(store, site, survey),
    before: await comparableBefore(store, site, survey),
  };
}

async function plansOf(
  store: SurveyTools['store'],
  site: Site,
  survey: Survey,
): Promise<PlannedParts | undefined> {
  const release = survey.release === null ? undefined : await releaseByNumber(store, site, survey.release);
  if (!release) return undefined;
  const { environment, options } = survey;
  const planner = new ReleasePlanner(await releaseSnapshot(store, release), environment);
  return new PlannedParts(planner, { site: site.key, environment, delivery: deliveryThen(options) });
}

/** Surveys from before there were other ways know of none. */
function deliveryThen({ delivery = 'gateway' }: Survey['options']): DeliveryKey {
  return delivery;
}

/** What is the same bytes now was read then as it would be read now: by the same reader, against the same release. */
async function comparableBefore(
  store: SurveyTools['store'],
  site: Site,
  survey: Survey,
): Promise<number | undefined> {
  const before = await lastDoneSurvey(store, site, { ...survey, before: survey.number });
  const isSame =
    before &&
    before.reader === survey.reader &&
    before.release === survey.release &&
    deliveryThen(before.options) === deliveryThen(survey.options);
  return isSame ? before.id : undefined;
}

const SEED_BATCH = 5_000;

/**
 * Opens a survey: robots.txt, then the pages that are known beforehand. May be done again where it was broken off.
 *
 * @returns whether it goes on from here
 */
export async function openSurvey(
  { survey, base, before }: OpenSurvey,
  { store, client }: SurveyTools,
  signal: AbortSignal,
): Promise<boolean> {
  const { id, options } = survey;
  const seed = (paths: readonly string[], depth: number, foundBy: FoundBy): Promise<void> =>
    addSeeds(survey, store, paths, depth, foundBy);
  if (options.given !== undefined) {
    await seed(await givenPaths(store, { id: survey.siteId }, options.given, options.limit), 0, 'list');
    return beginSurvey(store, id);
  }
  const verdict = await askRobots(client, base, signal);
  await saveRobots(store, id, verdict);
  if (verdict.kind === 'unreachable' && !options.ignoreRobots) {
    const params = { address: base.address, status: verdict.status ?? 0 };
    await endSurvey(store, id, 'failed', { id: 'robots-unreachable', params });
    return false;
  }
  await seed(['/'], 0, 'front');
  const listed = options.paths.flatMap((path) => pageOf(base.address + path, base.isOwnHost) ?? []);
  await seed(listed, 0, 'list');
  const { sitemaps } = robotsRules(verdict, base, false);
  for await (const paths of sitemapPages(client, base, sitemaps, options.limit, signal))
    await seed(paths, 1, 'sitemap');
  if (before !== undefined) await seed(await readPaths(store, before, options.limit), 1, 'before');
  return beginSurvey(store, id);
}

async function addSeeds(
  { id, options }: Survey,
  store: SurveyTools['store'],
  paths: readonly string[],
  depth: number,
  foundBy: FoundBy,
): Promise<void> {
  const unique = [...new Set(paths)];
  for (let from = 0; from < unique.length; from += SEED_BATCH) {
    const pages = unique.slice(from, from + SEED_BATCH).map((path) => ({ path, depth, foundBy }));
    await store.transactional(async (transaction) => {
      // Of what was handed over nothing is too much: somebody chose it.
      const kept = options.given === undefined ? await withinShapes(transaction, id, pages) : pages;
      await addPages(transaction, id, kept, options.limit);
    });
  }
}
