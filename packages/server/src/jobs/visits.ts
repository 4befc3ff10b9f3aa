import { snapshotDigest, type ThirdPartyRules } from '@pragmatica/core';
import { deferMessages } from '../language/speech.js';
import { pagesOfHost } from '../site/site-pages.js';
import { emptySnapshot, type Sets } from '../site/sets.js';
import { formerSnippet } from '../site/visits/former-snippet.js';
import { settleRound, type SettleOptions } from '../site/watch/after-round.js';
import { hostsOf } from '../storage/hosts.js';
import { releaseByNumber } from '../storage/releases.js';
import type { Site } from '../storage/rows.js';
import { watchOf } from '../storage/site-watches.js';
import { siteById } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { readBuilds } from '../storage/survey-pages.js';
import { lastDoneSurvey } from '../storage/surveys.js';
import {
  beginRound,
  endRound,
  roundById,
  saveAnswer,
  saveDigest,
  type VisitRound,
} from '../storage/visit-rounds.js';
import { planVisits } from '../storage/visits.js';
import { probesOfSet, type VisitGround } from '../visits/one-visit.js';
import { planRound } from '../visits/plan-round.js';
import { findTrouble } from '../visits/find-trouble.js';
import { runRound, whileWorking } from '../visits/run-round.js';
import { addressOf, type VisitTools } from '../visits/visiting.js';
import { judgeInPage } from '../verify/judge-in-page.js';
import { judgeOfHost } from './judge-of-host.js';
import type { JobQueue, QueuedJobs } from './queue.js';

export interface VisitJobTools extends VisitTools {
  readonly store: Store;
  readonly sets: Sets;
  readonly settling: SettleOptions;
}

interface RoundGround extends VisitGround {
  readonly site: Site;
}

const MAX_PAGES = 10_000;

/** Works on rounds of visits that are in the queue. What a worker gives back when it stops goes there again. */
export function visitsJob(tools: VisitJobTools, queue: Pick<JobQueue, 'send'>, stop: AbortSignal) {
  /** What follows from a round that is over. */
  const settle = async (id: number): Promise<void> => {
    const round = await roundById(tools.store.fork(), id);
    if (round?.state !== 'done' || round.isWell !== null || round.options.weigh) return;
    const { rounds } = await settleRound(tools.store.fork(), round, tools.settling);
    for (const { id: next, afterS } of rounds) await queue.send('visits', { round: next }, afterS);
  };
  const work = async ({ round: id }: QueuedJobs['visits']): Promise<void> => {
    const store = tools.store.fork();
    const round = await roundById(store, id);
    if (round?.state === 'done') await settle(id);
    if (!round || !(await beginRound(store, id))) return;
    try {
      const ground = await groundOf(store, round, tools);
      if (!ground) {
        await endRound(store, id, 'failed', { id: 'host-gone', params: { host: round.host } });
        return;
      }
      if (round.options.trouble) await answerTrouble(store, round, ground, tools, stop);
      else {
        await planVisits(store, round, await plan(store, round, ground, tools));
        await runRound(tools.store, round, ground, tools, stop);
        await settle(round.id);
      }
    } catch (error) {
      // It is taken up again when nobody has worked on it for a while.
      tools.log.warn({ err: error, round: id }, 'work on a round of visits was broken off');
    }
    if (stop.aborted) await queue.send('visits', { round: id });
  };
  // What comes of it is read by people of any language, later.
  return (job: QueuedJobs['visits']): Promise<void> => deferMessages(() => work(job));
}

async function answerTrouble(
  store: Store,
  round: VisitRound,
  ground: RoundGround,
  tools: VisitJobTools,
  stop: AbortSignal,
): Promise<void> {
  const served = { number: round.release ?? 0, snapshot: ground.snapshot };
  await whileWorking(tools.store, round, tools, stop, async (signal) => {
    const answer = await findTrouble({
      ...{ root: tools.store, round, ground, tools, signal },
      question: round.options.trouble!,
      historyOf: (snippet) => formerSnippet(store, ground.site, served, snippet),
    });
    await saveAnswer(store, round.id, answer);
  });
}

async function groundOf(
  store: Store,
  round: VisitRound,
  tools: VisitJobTools,
): Promise<RoundGround | undefined> {
  const site = await siteById(store, round.siteId);
  const hosts = site ? await hostsOf(store, site) : [];
  const host = hosts.find((one) => one.host === round.host);
  if (!site || !host) return undefined;
  const release = round.release === null ? undefined : await releaseByNumber(store, site, round.release);
  const instead = round.options.draft === true ? (await tools.sets.draft(store, site)).snapshot : undefined;
  if (instead) await saveDigest(store, round.id, snapshotDigest(instead));
  const { picture } = round.options;
  if (!release && !instead && !picture) return undefined;
  const snapshot = release ? await tools.sets.release(store, release) : emptySnapshot(site);
  const judging = { ...tools, store };
  return {
    site,
    host,
    ownOrigins: hosts.map(addressOf),
    thirdParties: await thirdPartyRules(store, site, round),
    ...{ snapshot, instead, picture },
    // A draft is put into the page, whatever way what is published takes.
    judge:
      instead && host.delivery === 'paste'
        ? judgeInPage(tools)
        : await judgeOfHost(judging, site, host, { number: release?.number ?? 0, snapshot }),
    access: await tools.client.accessIfLetIn(store, site, host),
    probed: await probesOfSet(instead ?? snapshot, host.environment, tools),
  };
}

/** The site's rules, unless whoever asked for the visits has said otherwise. */
async function thirdPartyRules(
  store: Store,
  site: Site,
  { options: { thirdParties: asked } }: VisitRound,
): Promise<ThirdPartyRules> {
  if (asked !== undefined) return { usual: asked, hosts: [] };
  const { thirdParties, hostAnswers } = await watchOf(store, site);
  return { usual: thirdParties, hosts: hostAnswers };
}

async function plan(
  store: Store,
  round: VisitRound,
  { site, host, snapshot, instead }: RoundGround,
  { client }: VisitJobTools,
) {
  const { options } = round;
  const needsPages = !options.given && typeof options.pages === 'string';
  const survey = needsPages
    ? await lastDoneSurvey(store, site, { environment: host.environment, host: host.host })
    : undefined;
  const builds = survey ? await readBuilds(store, survey.id, MAX_PAGES) : [];
  const known =
    builds.length > 0 || !needsPages
      ? builds
      : (await pagesOfHost(client, store, site, host)).paths.map((path) => ({ path }));
  return planRound(options, instead ?? snapshot, host, known, Date.now());
}
