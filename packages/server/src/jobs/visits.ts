import { dateWords, dayAt, snapshotDigest, type SnapshotSnippet } from '@pragmatica/core';
import { pagesOfHost } from '../site/site-pages.js';
import { emptySnapshot, type Sets } from '../site/sets.js';
import { settleRound, type SettleOptions } from '../site/watch/after-round.js';
import { hostsOf } from '../storage/hosts.js';
import { releaseByNumber, releasesOf } from '../storage/releases.js';
import type { Site } from '../storage/rows.js';
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
import { say } from '../texts/say.js';
import { VISITS_TEXTS } from '../texts/visits.js';
import { probesOfSet, type VisitGround } from '../visits/one-visit.js';
import { planRound } from '../visits/plan-round.js';
import { findTrouble, type SnippetHistory } from '../visits/find-trouble.js';
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

const RELEASES_LOOKED_AT = 50;
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
  return async ({ round: id }: QueuedJobs['visits']): Promise<void> => {
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
}

async function answerTrouble(
  store: Store,
  round: VisitRound,
  ground: RoundGround,
  tools: VisitJobTools,
  stop: AbortSignal,
): Promise<void> {
  await whileWorking(tools.store, round, tools, stop, async (signal) => {
    const answer = await findTrouble({
      ...{ root: tools.store, round, ground, tools, signal },
      question: round.options.trouble!,
      historyOf: (snippet) => historyOf(store, ground, round, snippet, tools.sets),
    });
    await saveAnswer(store, round.id, answer);
  });
}

/** Since which release a snippet has been as it is, and how it was before; nothing where that was longer ago than anybody looks. */
async function historyOf(
  store: Store,
  { site, snapshot }: RoundGround,
  { release: served }: VisitRound,
  key: string,
  sets: Sets,
): Promise<SnippetHistory> {
  const releases = (await releasesOf(store, site, RELEASES_LOOKED_AT)).filter(
    ({ number }) => number <= (served ?? 0),
  );
  let since: { readonly number: number; readonly createdAt: Date } | undefined;
  let former: { readonly release: number; readonly snippet: SnapshotSnippet } | undefined;
  let now: string | undefined;
  for (const { number } of releases) {
    const release = (await releaseByNumber(store, site, number))!;
    const { snippets } = await sets.release(store, release);
    const snippet = snippets.find((one) => one.key === key);
    const form = JSON.stringify(snippet ?? null);
    now ??= form;
    if (form !== now) {
      if (snippet?.state === 'on') former = { release: number, snippet };
      break;
    }
    since = release;
  }
  if (!since) return {};
  const date = dateWords(dayAt(since.createdAt.getTime(), site.timeZone));
  const words = say(VISITS_TEXTS.troubleSince, { release: since.number, date });
  if (!former) return { since: words };
  const { release, snippet } = former;
  const snippets = snapshot.snippets.map((one) => (one.key === key ? snippet : one));
  return { since: words, former: { release, snapshot: { ...snapshot, snippets } } };
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
