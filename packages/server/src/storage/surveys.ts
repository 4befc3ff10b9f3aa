import type { Environment } from '@pragmatica/contract';
import type { DeliveryKey } from '@pragmatica/core';
import { emOf } from './em.js';
import { endJob, withMoments, type JobProblem } from './job-rows.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';
import { limitsOf } from './store-limits.js';

export type SurveyState = 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';
export type SurveySide = 'public' | 'origin';

/** What somebody asked of a survey. */
export interface SurveyOptions {
  /** Pages that are visited at most. */
  readonly limit: number;
  /** Pages to visit beside those that the site lists itself. */
  readonly paths: readonly string[];
  /** Visits what robots.txt forbids, too: the site is the owner's. */
  readonly ignoreRobots: boolean;
  /** Pages asked for at once. */
  readonly concurrency: number;
  /** Milliseconds between two requests. */
  readonly delayMs: number;
  /** The set of pages that were handed over: these are read, and no others. */
  readonly given?: string | undefined;
  /** The way in which the host's pages got their parts when it began. @defaultValue gateway */
  readonly delivery?: DeliveryKey | undefined;
  /** Nobody asked: its time had come. What it finds new is told. */
  readonly isPlanned?: boolean | undefined;
}

/** What the site's robots.txt said (RFC 9309). */
export interface RobotsVerdict {
  readonly kind: 'rules' | 'none' | 'unreachable';
  readonly status: number | null;
  /** Of our group, or of all robots: milliseconds. */
  readonly delayMs: number;
  /** As it was answered, for `kind` rules. */
  readonly text: string;
}

export interface Survey {
  readonly id: number;
  readonly siteId: number;
  readonly number: number;
  readonly host: string;
  readonly environment: Environment;
  readonly side: SurveySide;
  readonly state: SurveyState;
  readonly options: SurveyOptions;
  /** The release that was served when it began; null where nothing was. */
  readonly release: number | null;
  /** Version of the reader: what another one read may be read otherwise now. */
  readonly reader: number;
  readonly robots: RobotsVerdict | null;
  readonly problem: JobProblem | null;
  readonly found: number;
  readonly visited: number;
  readonly failed: number;
  readonly unchanged: number;
  readonly leftOut: number;
  /** Number of the survey that it waits for. */
  readonly after: number | null;
  readonly requestedBy: string;
  readonly createdAt: Date;
  readonly startedAt: Date | null;
  readonly endedAt: Date | null;
}

const COLUMNS = `s.id, s.site_id as "siteId", s.number, s.host, s.environment, s.side, s.state, s.options, s.release, s.reader,
  s.robots, s.problem, s.found, s.visited, s.failed, s.unchanged, s.left_out as "leftOut", s.after,
  s.requested_by as "requestedBy", s.created_at as "createdAt", s.started_at as "startedAt", s.ended_at as "endedAt"`;

async function select(store: Store, rest: string, params: readonly unknown[]): Promise<Survey[]> {
  const rows = await emOf(store).execute<Survey[]>(`select ${COLUMNS} from survey s ${rest}`, [...params]);
  return rows.map(withMoments);
}

export type NewSurvey = Pick<
  Survey,
  'host' | 'environment' | 'side' | 'options' | 'release' | 'reader' | 'after' | 'requestedBy'
>;

/** Adds the next survey of a site. Called inside the transaction that locked the site. */
export async function addSurvey(store: Store, site: Site, survey: NewSurvey): Promise<Survey> {
  const [row] = await emOf(store).execute<{ id: number }[]>(
    `insert into survey (site_id, number, host, environment, side, options, release, reader, after, requested_by)
     values (?, (select coalesce(max(number), 0) + 1 from survey where site_id = ?), ?, ?, ?, ?::jsonb, ?, ?, ?, ?)
     returning id`,
    [
      site.id,
      site.id,
      survey.host,
      survey.environment,
      survey.side,
      JSON.stringify(survey.options),
      survey.release,
      survey.reader,
      survey.after,
      survey.requestedBy,
    ],
  );
  return (await surveyById(store, row!.id))!;
}

export async function surveyById(store: Store, id: number): Promise<Survey | undefined> {
  const [survey] = await select(store, 'where s.id = ?', [id]);
  return survey;
}

export async function surveyByNumber(store: Store, site: Site, number: number): Promise<Survey | undefined> {
  const [survey] = await select(store, 'where s.site_id = ? and s.number = ?', [site.id, number]);
  return survey;
}

/** Surveys of a site, the newest first. @param before - only those with a lower number */
export async function surveysOf(
  store: Store,
  site: Site,
  limit: number,
  before?: number,
): Promise<readonly Survey[]> {
  return select(
    store,
    `where s.site_id = ? ${before === undefined ? '' : 'and s.number < ?'} order by s.number desc limit ?`,
    [site.id, ...(before === undefined ? [] : [before]), limit],
  );
}

/** The newest survey that came to its end, of one environment where one is named. */
export async function lastDoneSurvey(
  store: Store,
  site: Pick<Site, 'id'>,
  {
    environment,
    host,
    side,
    before,
  }: { environment?: Environment; host?: string; side?: SurveySide; before?: number } = {},
): Promise<Survey | undefined> {
  const [survey] = await select(
    store,
    `where s.site_id = ? and s.state = 'done'
       ${environment === undefined ? '' : 'and s.environment = ?'}
       ${host === undefined ? '' : 'and s.host = ?'}
       ${side === undefined ? '' : 'and s.side = ?'}
       ${before === undefined ? '' : 'and s.number < ?'}
     order by s.number desc limit 1`,
    [site.id, environment, host, side, before].filter((value) => value !== undefined),
  );
  return survey;
}

/** A survey that is not over, of a host and a side. */
export async function openSurvey(
  store: Store,
  site: Site,
  host: string,
  side: SurveySide,
): Promise<Survey | undefined> {
  const [survey] = await select(
    store,
    `where s.site_id = ? and s.host = ? and s.side = ? and s.state in ('waiting', 'running') limit 1`,
    [site.id, host, side],
  );
  return survey;
}

/** Begins a survey that waits. @returns whether it was this call that did */
export async function beginSurvey(store: Store, id: number): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update survey set state = 'running', started_at = now(), beat_at = now()
     where id = ? and state in ('waiting', 'running') and started_at is null returning id`,
    [id],
  );
  return rows.length > 0;
}

export async function saveRobots(store: Store, id: number, robots: RobotsVerdict): Promise<void> {
  await emOf(store).execute('update survey set robots = ?::jsonb where id = ?', [JSON.stringify(robots), id]);
}

/** Ends a survey that is not over. @returns whether it was this call that did */
export function endSurvey(
  store: Store,
  id: number,
  state: 'done' | 'cancelled' | 'failed',
  problem: JobProblem | null = null,
): Promise<boolean> {
  return endJob(store, 'survey', id, state, problem);
}

/** Says that somebody works on a survey. @returns its state now */
export async function beatSurvey(store: Store, id: number): Promise<SurveyState | undefined> {
  const [row] = await emOf(store).execute<{ state: SurveyState }[]>(
    'update survey set beat_at = now() where id = ? returning state',
    [id],
  );
  return row?.state;
}

/** Takes the next turn to ask something of the site. @returns milliseconds to wait for it */
export async function takeTurn(store: Store, id: number, delayMs: number): Promise<number> {
  const [row] = await emOf(store).execute<{ wait: number }[]>(
    `update survey set next_fetch_at = greatest(next_fetch_at, now()) + ? * interval '1 millisecond' where id = ?
     returning (extract(epoch from next_fetch_at - now()) * 1000 - ?)::float8 as wait`,
    [delayMs, id, delayMs],
  );
  return Math.max(0, row?.wait ?? 0);
}

/** Surveys on which nobody has worked for a while, though they are not over; not those that wait for another. */
export async function forsakenSurveys(store: Store, silentMs: number): Promise<number[]> {
  const rows = await emOf(store).execute<{ id: number }[]>(
    `update survey set beat_at = now()
     where state in ('waiting', 'running') and beat_at < now() - ? * interval '1 millisecond' and not exists (
       select 1 from survey first where first.site_id = survey.site_id and first.number = survey.after
         and first.state in ('waiting', 'running'))
     returning id`,
    [silentMs],
  );
  return rows.map(({ id }) => id);
}

/** The last survey before one, of the same host and side, that began by itself and came to its end. */
export async function lastPlannedSurvey(
  store: Store,
  site: Pick<Site, 'id'>,
  { environment, host, side, number }: Pick<Survey, 'environment' | 'host' | 'side' | 'number'>,
): Promise<Survey | undefined> {
  const [survey] = await select(
    store,
    `where s.site_id = ? and s.state = 'done' and s.environment = ? and s.host = ? and s.side = ? and s.number < ?
       and s.options ->> 'isPlanned' = 'true' order by s.number desc limit 1`,
    [site.id, environment, host, side, number],
  );
  return survey;
}

/** Says that what a survey found is told. @returns whether it was this call that said so */
export async function claimTelling(store: Store, { id }: Pick<Survey, 'id'>): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    'update survey set told_at = now() where id = ? and told_at is null returning id',
    [id],
  );
  return rows.length > 0;
}

/** Ids of the surveys that wait for one. */
export async function followersOf(store: Store, { siteId, number }: Survey): Promise<number[]> {
  const rows = await emOf(store).execute<{ id: number }[]>(
    `select id from survey where site_id = ? and after = ? and state = 'waiting'`,
    [siteId, number],
  );
  return rows.map(({ id }) => id);
}

/** Ends a survey's own follower, where that still waits for it. */
export async function endFollowers(store: Store, { siteId, number }: Survey): Promise<void> {
  await emOf(store).execute(
    `update survey set state = 'cancelled', ended_at = now()
     where site_id = ? and after = ? and state = 'waiting' and started_at is null`,
    [siteId, number],
  );
}

/**
 * Removes surveys of a site that are over, but for the newest so many of each host and side, as far as their pages are within the
 * site’s quota. The newest of each stays.
 */
export async function sweepSurveys(store: Store, siteId: number, kept: number): Promise<void> {
  await emOf(store).execute(
    `delete from survey where site_id = ? and state not in ('waiting', 'running') and id not in (
       select id from (
         select id, row_number() over (partition by host, side order by number desc) as place,
           sum(visited) over (order by number desc) as total
         from survey where site_id = ?
       ) ranked where place = 1 or (place <= ? and total <= ?))`,
    [siteId, siteId, kept, limitsOf(store)['surveyed-pages']],
  );
}
