import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';
import type { SurveyOptions, SurveySide } from './surveys.js';

/** What a survey that begins by itself is asked for. */
export type ScheduledOptions = Omit<SurveyOptions, 'paths' | 'given'> & {
  readonly side: SurveySide | 'both';
};

/** When surveys of a host begin by themselves. */
export interface SurveySchedule {
  readonly host: string;
  readonly cron: string;
  /** Time zone in which it counts. */
  readonly zone: string;
  readonly options: ScheduledOptions;
  /** Null where it never comes again. */
  readonly nextAt: Date | null;
  readonly setBy: string;
  readonly setAt: Date;
}

const COLUMNS = `c.host, c.cron, c.zone, c.options, c.next_at as "nextAt", c.set_by as "setBy", c.set_at as "setAt"`;

function toSchedule<T extends SurveySchedule>(row: T): T {
  return { ...row, nextAt: row.nextAt && new Date(row.nextAt), setAt: new Date(row.setAt) };
}

/** By host. */
export async function schedulesOf(store: Store, site: Pick<Site, 'id'>): Promise<readonly SurveySchedule[]> {
  const rows = await emOf(store).execute<SurveySchedule[]>(
    `select ${COLUMNS} from survey_schedule c where c.site_id = ? order by c.host`,
    [site.id],
  );
  return rows.map(toSchedule);
}

export async function saveSchedule(
  store: Store,
  site: Pick<Site, 'id'>,
  { host, cron, zone, options, nextAt, setBy }: Omit<SurveySchedule, 'setAt'>,
): Promise<void> {
  await emOf(store).execute(
    `insert into survey_schedule (site_id, host, cron, zone, options, next_at, set_by) values (?, ?, ?, ?, ?::jsonb, ?, ?)
     on conflict (site_id, host) do update set cron = excluded.cron, zone = excluded.zone, options = excluded.options,
       next_at = excluded.next_at, set_by = excluded.set_by, set_at = now()`,
    [site.id, host, cron, zone, JSON.stringify(options), nextAt, setBy],
  );
}

/** @returns whether there was one */
export async function removeSchedule(store: Store, site: Pick<Site, 'id'>, host: string): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    'delete from survey_schedule where site_id = ? and host = ? returning host',
    [site.id, host],
  );
  return rows.length > 0;
}

/** A schedule with the site that it is of. */
export interface SiteSchedule extends SurveySchedule {
  readonly siteId: number;
  readonly siteKey: string;
  /** The site's time zone now. */
  readonly siteZone: string;
}

const OF_SITES = `select ${COLUMNS}, c.site_id as "siteId", s.key as "siteKey", s.time_zone as "siteZone"
  from survey_schedule c join site s on s.id = c.site_id`;

/** Schedules whose time has come. Called inside a transaction, in which nobody else takes them. */
export async function dueSchedules(store: Store, most: number): Promise<readonly SiteSchedule[]> {
  const rows = await emOf(store).execute<SiteSchedule[]>(
    `${OF_SITES} where c.next_at <= now() order by c.next_at limit ? for update of c skip locked`,
    [most],
  );
  return rows.map(toSchedule);
}

/** Schedules of sites whose time zone is another one since. The same holds for it. */
export async function movedSchedules(store: Store, most: number): Promise<readonly SiteSchedule[]> {
  const rows = await emOf(store).execute<SiteSchedule[]>(
    `${OF_SITES} where c.zone <> s.time_zone limit ? for update of c skip locked`,
    [most],
  );
  return rows.map(toSchedule);
}

/** Says when a schedule comes next. */
export async function moveSchedule(
  store: Store,
  { siteId, host }: Pick<SiteSchedule, 'siteId' | 'host'>,
  zone: string,
  nextAt: Date | null,
): Promise<void> {
  await emOf(store).execute(
    'update survey_schedule set zone = ?, next_at = ? where site_id = ? and host = ?',
    [zone, nextAt, siteId, host],
  );
}
