import type { Environment } from '@pragmatica/contract';
import type { DeliveryKey, Device, Placement, ThirdParties, Trouble } from '@pragmatica/core';
import { emOf } from './em.js';
import { endJob, withMoments, type JobProblem } from './job-rows.js';
import { fromStored, toStored } from './deferred-words.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';
import { limitsOf } from './store-limits.js';

const MEGABYTE = 1_000_000;

export type RoundState = 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';

/** What a round of visits was asked for. */
export interface RoundOptions {
  readonly pages: 'sample' | 'all' | readonly string[];
  /** Those that anything depends on when left out. */
  readonly devices?: readonly Device[] | undefined;
  /** What other hosts get; as the site’s rules say when left out. */
  readonly thirdParties?: ThirdParties | undefined;
  /** The draft is rehearsed: pages get it instead of what is served. */
  readonly draft?: boolean | undefined;
  /** Visits that are given instead of computed: the question "why" asks for one. */
  readonly given?: readonly GivenVisit[] | undefined;
  /** What is wrong on this page, and who does it: visits follow from what others saw. */
  readonly trouble?: TroubleQuestion | undefined;
  /** A picture of a page as it is without the snippets, with its elements numbered, or of what a part would show there. */
  readonly picture?: PictureQuestion | undefined;
  /** Snippets are left out in turn, to tell what each costs. */
  readonly weigh?: boolean | undefined;
  /** Present where nobody asked: it is the schedule's, or it follows a release. */
  readonly watch?: WatchReason | undefined;
}

/** Why visits began by themselves. */
export interface WatchReason {
  readonly reason: 'schedule' | 'release';
  /** What was served before, where a release is looked at. */
  readonly former: number | null;
  /** Number of the round whose losses are looked at once more. */
  readonly confirms?: number | undefined;
}

export interface PictureQuestion {
  readonly part?: { readonly placement: Placement; readonly code: string } | undefined;
}

export interface TroubleQuestion {
  readonly path: string;
  readonly device: Device;
  readonly about: readonly Trouble['kind'][];
}

/** What came out of such a question. */
export interface TroubleAnswer {
  readonly isWell: boolean;
  readonly sentence: string;
  readonly troubles: readonly Trouble[];
}

/** A visit as it is planned. */
export interface GivenVisit {
  readonly path: string;
  readonly title: string;
  readonly because: string;
  readonly script: unknown;
  /** Keys of snippets that are taken out of the pages. */
  readonly without?: readonly string[];
}

/** A round of visits to pages of one host. */
export interface VisitRound {
  readonly id: number;
  readonly siteId: number;
  readonly number: number;
  readonly host: string;
  readonly environment: Environment;
  readonly delivery: DeliveryKey;
  readonly release: number | null;
  readonly options: RoundOptions;
  readonly state: RoundState;
  readonly problem: JobProblem | null;
  readonly browser: string | null;
  readonly answer: TroubleAnswer | null;
  /** Of the draft that was tried; null for what is served. */
  readonly digest: string | null;
  /** Null while it is not over. */
  readonly isWell: boolean | null;
  readonly requestedBy: string;
  readonly createdAt: Date;
  readonly startedAt: Date | null;
  readonly endedAt: Date | null;
  readonly planned: number;
  readonly done: number;
}

const COLUMNS = `r.id, r.site_id as "siteId", r.number, r.host, r.environment, r.delivery, r.release, r.options, r.state,
  r.problem, r.browser, r.answer, r.said, r.digest, r.is_well as "isWell", r.requested_by as "requestedBy", r.created_at as "createdAt", r.started_at as "startedAt",
  r.ended_at as "endedAt",
  (select count(*)::int from visit v where v.round_id = r.id) as planned,
  (select count(*)::int from visit v where v.round_id = r.id and v.state in ('done', 'failed')) as done`;

const IS_WEIGHING = `coalesce(options ->> 'weigh' = 'true', false)`;
/** A round that answers somebody's question is no round that anybody compares with. */
const IS_QUESTION = `(options -> 'given' is not null or options -> 'trouble' is not null or ${IS_WEIGHING})`;

interface RoundRow extends VisitRound {
  readonly said: TroubleAnswer | null;
}

async function select(store: Store, rest: string, params: readonly unknown[]): Promise<VisitRound[]> {
  const rows = await emOf(store).execute<RoundRow[]>(`select ${COLUMNS} from visit_round r ${rest}`, [
    ...params,
  ]);
  return rows.map(({ said, ...row }) => withMoments({ ...row, answer: fromStored(row.answer, said) }));
}

export type NewRound = Pick<
  VisitRound,
  'host' | 'environment' | 'delivery' | 'release' | 'options' | 'requestedBy'
>;

/** Adds the next round of a site. Called inside the transaction that locked the site. */
export async function addRound(store: Store, site: Pick<Site, 'id'>, round: NewRound): Promise<VisitRound> {
  const [row] = await emOf(store).execute<{ id: number }[]>(
    `insert into visit_round (site_id, number, host, environment, delivery, release, options, requested_by)
     values (?, (select coalesce(max(number), 0) + 1 from visit_round where site_id = ?), ?, ?, ?, ?, ?::json, ?)
     returning id`,
    [
      ...[site.id, site.id, round.host, round.environment, round.delivery, round.release],
      JSON.stringify(round.options),
      round.requestedBy,
    ],
  );
  return (await roundById(store, row!.id))!;
}

export async function roundById(store: Store, id: number): Promise<VisitRound | undefined> {
  const [round] = await select(store, 'where r.id = ?', [id]);
  return round;
}

export async function roundByNumber(
  store: Store,
  site: Pick<Site, 'id'>,
  number: number,
): Promise<VisitRound | undefined> {
  const [round] = await select(store, 'where r.site_id = ? and r.number = ?', [site.id, number]);
  return round;
}

/** The newest round that came to its end. */
export async function lastDoneRound(store: Store, site: Pick<Site, 'id'>): Promise<VisitRound | undefined> {
  const [round] = await select(
    store,
    `where r.site_id = ? and r.state = 'done' and not ${IS_QUESTION} order by r.number desc limit 1`,
    [site.id],
  );
  return round;
}

/** The newest that weighed pages to its end. @param digest - of the draft that it tried; any when left out */
export async function lastWeighing(
  store: Store,
  site: Pick<Site, 'id'>,
  digest?: string,
): Promise<VisitRound | undefined> {
  const ofDraft = digest === undefined ? '' : 'and r.digest = ?';
  const [round] = await select(
    store,
    `where r.site_id = ? ${ofDraft} and r.state = 'done' and ${IS_WEIGHING} order by r.number desc limit 1`,
    [site.id, ...(digest === undefined ? [] : [digest])],
  );
  return round;
}

/** Rounds of a site, the newest first. @param before - only those with a lower number */
export async function roundsOf(
  store: Store,
  site: Pick<Site, 'id'>,
  limit: number,
  before?: number,
): Promise<readonly VisitRound[]> {
  return select(
    store,
    `where r.site_id = ? ${before === undefined ? '' : 'and r.number < ?'} order by r.number desc limit ?`,
    [site.id, ...(before === undefined ? [] : [before]), limit],
  );
}

/** Begins a round that waits. @returns whether there is anything to do for it */
export async function beginRound(store: Store, id: number): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update visit_round set state = 'running', started_at = coalesce(started_at, now()), beat_at = now()
     where id = ? and state in ('waiting', 'running') returning id`,
    [id],
  );
  return rows.length > 0;
}

/** Ends a round that is not over. @returns whether it was this call that did */
export function endRound(
  store: Store,
  id: number,
  state: 'done' | 'cancelled' | 'failed',
  problem: JobProblem | null = null,
): Promise<boolean> {
  return endJob(store, 'visit_round', id, state, problem);
}

/** Says which draft a round tries. */
export async function saveDigest(store: Store, id: number, digest: string): Promise<void> {
  await emOf(store).execute('update visit_round set digest = ? where id = ?', [digest, id]);
}

/** Says whether all that a round saw was well. */
export async function saveOutcome(store: Store, id: number, isWell: boolean): Promise<void> {
  await emOf(store).execute('update visit_round set is_well = ? where id = ?', [isWell, id]);
}

/** The newest round that tried just this draft on more than chosen pages, to its end, on whatever host. */
export async function lastRehearsal(
  store: Store,
  site: Pick<Site, 'id'>,
  digest: string,
): Promise<VisitRound | undefined> {
  const [round] = await select(
    store,
    `where r.site_id = ? and r.digest = ? and r.state = 'done' and not ${IS_QUESTION}
       and r.options ->> 'pages' in ('sample', 'all') order by r.number desc limit 1`,
    [site.id, digest],
  );
  return round;
}

/** Ends rounds of a host that look at a release, because it serves another one by now. */
export async function supersedeRounds(store: Store, site: Pick<Site, 'id'>, host: string): Promise<void> {
  await emOf(store).execute(
    `update visit_round set state = 'cancelled', ended_at = now()
     where site_id = ? and host = ? and state in ('waiting', 'running') and options -> 'watch' ->> 'reason' = 'release'`,
    [site.id, host],
  );
}

/** Whether visits to a host that began by themselves are not over. */
export async function hasWatchRound(store: Store, site: Pick<Site, 'id'>, host: string): Promise<boolean> {
  const [row] = await emOf(store).execute<{ found: boolean }[]>(
    `select exists (select 1 from visit_round where site_id = ? and host = ? and state in ('waiting', 'running')
       and options -> 'watch' is not null) as found`,
    [site.id, host],
  );
  return row?.found === true;
}

export async function saveAnswer(store: Store, id: number, answer: TroubleAnswer): Promise<void> {
  const { words, said } = toStored(answer);
  await emOf(store).execute('update visit_round set answer = ?::json, said = ?::json where id = ?', [
    storable(words),
    said && storable(said),
    id,
  ]);
}

function storable(answer: TroubleAnswer): string {
  return JSON.stringify(answer).replaceAll('\\u0000', '\\ufffd');
}

/** Says that somebody works on a round. @returns its state now */
export async function beatRound(
  store: Store,
  id: number,
  browser: string | null,
): Promise<RoundState | undefined> {
  const [row] = await emOf(store).execute<{ state: RoundState }[]>(
    'update visit_round set beat_at = now(), browser = coalesce(?, browser) where id = ? returning state',
    [browser, id],
  );
  return row?.state;
}

/**
 * Rounds on which nobody has worked for a while, though they are not over, or nobody has drawn what follows from them.
 *
 * @param lostMs - one that waits in line for so long is not in it any more
 */
export async function forsakenRounds(store: Store, silentMs: number, lostMs: number): Promise<number[]> {
  const rows = await emOf(store).execute<{ id: number }[]>(
    `update visit_round set beat_at = now()
     where (state = 'running' and beat_at < now() - ? * interval '1 millisecond')
       or (state = 'waiting' and beat_at < now() - ? * interval '1 millisecond')
       or (state = 'done' and is_well is null and not ${IS_QUESTION}
         and greatest(beat_at, ended_at) < now() - ? * interval '1 millisecond'
         and ended_at > now() - interval '1 day')
     returning id`,
    [silentMs, lostMs, silentMs],
  );
  return rows.map(({ id }) => id);
}

/**
 * Removes rounds of a site that are over, but for the newest so many, and as many questions, as far as their evidence is within
 * the site’s quota. The newest stays.
 */
export async function sweepRounds(store: Store, siteId: number, kept: number): Promise<void> {
  await emOf(store).execute(
    `delete from visit_round where state not in ('waiting', 'running') and id in (
       select id from (
         select r.id, row_number() over (partition by ${IS_QUESTION} order by r.number desc) as place,
           row_number() over (order by r.number desc) as age, sum(e.bytes) over (order by r.number desc) as total
         from visit_round r cross join lateral (
           select coalesce(sum(octet_length(v.evidence)), 0) + coalesce(sum((
             select sum(octet_length(s.image)) from visit_screenshot s where s.visit_id = v.id)), 0) as bytes
           from visit v where v.round_id = r.id) e
         where r.site_id = ?
       ) ranked where place > ? or (age > 1 and total > ?))`,
    [siteId, kept, limitsOf(store)['evidence-megabytes'] * MEGABYTE],
  );
}
