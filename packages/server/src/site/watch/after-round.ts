import {
  confirmed,
  isNews,
  isOfRelease,
  knownAfter,
  momentWords,
  newsOf,
  newsWords,
  noticeOf,
  standingWords,
  standingsOf,
  type News,
  type PutBack,
} from '@pragmatica/core';
import { pointTo, pointerOf } from '../../storage/pointers.js';
import { releaseByNumber } from '../../storage/releases.js';
import type { Site } from '../../storage/rows.js';
import { watchOf } from '../../storage/site-watches.js';
import { siteById } from '../../storage/sites.js';
import { addStandings, saveTold, standingsOfRound, toldOf } from '../../storage/standings.js';
import type { Store } from '../../storage/store.js';
import { audit, notifyGateways } from '../../storage/trail.js';
import { addRound, saveOutcome, type VisitRound, type WatchReason } from '../../storage/visit-rounds.js';
import { visitsOf } from '../../storage/visits.js';
import { say } from '../../texts/say.js';
import { WATCHER, WATCH_TEXTS as T } from '../../texts/watch.js';
import { withSiteLock } from '../site-lock.js';
import { summaryOf } from '../visits/visit-resource.js';
import { SETTLE_S } from './after-publishing.js';
import { tell } from './notices.js';

/** Rounds of a host whose standings are kept. */
const KEPT = 400;

export interface SettleOptions {
  /** Where people reach the console. */
  readonly address: string;
  /** Seconds until a second look: what a restart or a hiccup lost is there again by then. */
  readonly secondLookS: number;
}

/** A round that follows. */
export interface NextRound {
  readonly id: number;
  readonly afterS: number;
}

/**
 * What follows from a round that came to its end: how the snippets stand is written down, and where nobody had asked for it, what is
 * new is told, after a second look. A release that lost what worked before is taken back where the site's settings say so.
 */
export async function settleRound(
  store: Store,
  round: VisitRound,
  { address, secondLookS }: SettleOptions,
): Promise<{ readonly rounds: readonly NextRound[] }> {
  const summary = summaryOf(await visitsOf(store, round));
  const site = await siteById(store, round.siteId);
  if (!site) return { rounds: [] };
  return withSiteLock(store, site.key, async (transaction, locked) => {
    await saveOutcome(transaction, round.id, summary.isWell);
    if (!isRegular(round)) return { rounds: [] };
    const standings = standingsOf(summary, round.planned);
    const rows = standings.map(({ snippet, name, state, losses }) => ({
      ...{ snippet, name, state },
      losses: losses.map(({ at, cause }) => ({ at, causeId: cause.id })),
      message: standingWords({ state, losses }),
    }));
    await addStandings(transaction, round, rows, KEPT);
    const { watch } = round.options;
    if (!watch) return { rounds: [] };
    const known = await toldOf(transaction, round);
    const isSecond = watch.confirms !== undefined;
    const sure = isSecond
      ? confirmed(await standingsOfRound(transaction, round, watch.confirms), standings, known)
      : standings;
    const news = newsOf(known, sure);
    if (!isSecond && news.lost.length > 0)
      return { rounds: [await lookAgain(transaction, locked, round, watch, secondLookS)] };
    await saveTold(transaction, round, knownAfter(sure));
    if (!isNews(news)) return { rounds: [] };
    const done = await putBack(transaction, locked, round, watch, news);
    await tellNews(transaction, locked, round, watch, news, done.state, address);
    await transaction.flush();
    return { rounds: done.rounds };
  });
}

/** Others cover other pages, devices or sets, and say nothing of whether something was lost. */
function isRegular({
  options: { pages, devices, draft, given, trouble, thirdParties },
}: VisitRound): boolean {
  return (
    typeof pages === 'string' &&
    devices === undefined &&
    draft !== true &&
    given === undefined &&
    trouble === undefined &&
    (thirdParties === undefined || thirdParties === 'real')
  );
}

async function lookAgain(
  store: Store,
  site: Site,
  round: VisitRound,
  watch: WatchReason,
  afterS: number,
): Promise<NextRound> {
  const { host, environment, delivery, release, options, requestedBy } = round;
  const { id } = await addRound(store, site, {
    ...{ host, environment, delivery, release, requestedBy },
    options: { ...options, watch: { ...watch, confirms: round.number } },
  });
  return { id, afterS };
}

/** Puts the former release back where this one lost something and the site says so; otherwise that is offered. */
async function putBack(
  store: Store,
  site: Site,
  round: VisitRound,
  { reason, former }: WatchReason,
  news: News,
): Promise<{ readonly state: PutBack; readonly rounds: readonly NextRound[] }> {
  if (reason !== 'release' || former === null || former === round.release || !isOfRelease(news))
    return { state: null, rounds: [] };
  const { environment } = round;
  const pointer = await pointerOf(store, site, environment);
  // Somebody has published or put back something else meanwhile.
  if (pointer?.release.number !== round.release) return { state: null, rounds: [] };
  const release = await releaseByNumber(store, site, former);
  if (!release) return { state: null, rounds: [] };
  if ((await watchOf(store, site)).afterPublishing !== 'put-back') return { state: 'offered', rounds: [] };
  await pointTo(store, site, environment, release, WATCHER);
  const { number } = pointer.release;
  audit(store, site, WATCHER, 'restore', () =>
    say(T.putBack, { former, environment, release: number, what: newsWords(news) }),
  );
  await store.flush();
  await notifyGateways(store, site);
  const { id } = await addRound(store, site, {
    ...{ host: round.host, environment, delivery: round.delivery, release: former, requestedBy: WATCHER },
    options: { ...round.options, watch: { reason: 'release', former: null } },
  });
  return { state: 'done', rounds: [{ id, afterS: SETTLE_S }] };
}

async function tellNews(
  store: Store,
  site: Site,
  round: VisitRound,
  { reason, former }: WatchReason,
  news: News,
  putBackState: PutBack,
  base: string,
): Promise<void> {
  const address = `${base}/sites/${site.key}/check/browser/${round.number}`;
  const now = Date.now();
  await tell(store, site, () => ({
    ...noticeOf(news, {
      site: site.name,
      host: round.host,
      moment: momentWords(now, site.timeZone),
      release: reason === 'release' ? round.release : null,
      former,
      putBack: putBackState,
      address,
    }),
    type: 'snippets.changed',
    data: {
      ...{ host: round.host, environment: round.environment, release: round.release, round: round.number },
      lost: news.lost.map(({ at, causeId, snippets }) => ({
        ...{ at, cause: causeId },
        snippets: snippets.map(({ snippet, name, paths, cause: { message, advice, who } }) => ({
          ...{ key: snippet, name, paths, message, advice, who },
        })),
      })),
      back: news.back.map(({ snippet, name }) => ({ key: snippet, name })),
      putBack: putBackState === null ? null : { state: putBackState, release: former },
      address,
    },
  }));
}
