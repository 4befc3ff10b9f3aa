import type { HostAnswer, ThirdParties } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** What follows a release. */
export type AfterPublishing = 'nothing' | 'look' | 'put-back';

/** How a site is watched. */
export interface SiteWatch {
  /** When visits begin by themselves; null for never. */
  readonly cron: string | null;
  /** Time zone in which it counts. */
  readonly zone: string;
  readonly nextAt: Date | null;
  readonly afterPublishing: AfterPublishing;
  readonly needsRehearsal: boolean;
  readonly mailTo: readonly string[];
  /** What all snippets together may add to a page, in kB; null for no budget. */
  readonly budgetKb: number | null;
  /** What other hosts get in visits. */
  readonly thirdParties: ThirdParties;
  readonly hostAnswers: readonly HostAnswer[];
  readonly setBy: string;
  /** Null where nobody has set anything. */
  readonly setAt: Date | null;
}

const COLUMNS = `w.cron, w.zone, w.next_at as "nextAt", w.after_publishing as "afterPublishing",
  w.needs_rehearsal as "needsRehearsal", w.mail_to as "mailTo", w.budget_kb as "budgetKb",
  w.third_parties as "thirdParties", w.host_answers as "hostAnswers",
  w.set_by as "setBy", w.set_at as "setAt"`;

function toWatch<T extends SiteWatch>(row: T): T {
  const date = (value: Date | null): Date | null => value && new Date(value);
  return { ...row, nextAt: date(row.nextAt), setAt: date(row.setAt) };
}

/** As it is where nobody has set anything: a release is looked at. */
export async function watchOf(store: Store, site: Pick<Site, 'id' | 'timeZone'>): Promise<SiteWatch> {
  const [row] = await emOf(store).execute<SiteWatch[]>(
    `select ${COLUMNS} from site_watch w where w.site_id = ?`,
    [site.id],
  );
  if (row) return toWatch(row);
  return {
    ...{ cron: null, zone: site.timeZone, nextAt: null },
    ...{ afterPublishing: 'look', needsRehearsal: false, mailTo: [], budgetKb: null },
    ...{ thirdParties: 'real', hostAnswers: [], setBy: '', setAt: null },
  };
}

export async function saveWatch(store: Store, site: Pick<Site, 'id'>, watch: SiteWatch): Promise<void> {
  const { cron, zone, nextAt, afterPublishing, needsRehearsal, mailTo, budgetKb, setBy } = watch;
  const { thirdParties, hostAnswers } = watch;
  await emOf(store).execute(
    `insert into site_watch (site_id, cron, zone, next_at, after_publishing, needs_rehearsal, mail_to, budget_kb,
       third_parties, host_answers, set_by)
     values (?, ?, ?, ?, ?, ?, ?::jsonb, ?, ?, ?::jsonb, ?)
     on conflict (site_id) do update set cron = excluded.cron, zone = excluded.zone, next_at = excluded.next_at,
       after_publishing = excluded.after_publishing, needs_rehearsal = excluded.needs_rehearsal,
       mail_to = excluded.mail_to, budget_kb = excluded.budget_kb,
       third_parties = excluded.third_parties, host_answers = excluded.host_answers, set_by = excluded.set_by, set_at = now()`,
    [
      ...[site.id, cron, zone, nextAt, afterPublishing, needsRehearsal, JSON.stringify(mailTo), budgetKb],
      ...[thirdParties, JSON.stringify(hostAnswers), setBy],
    ],
  );
}

/** How a site is watched whose time has come, or whose time zone is another one since. */
export interface DueWatch extends SiteWatch {
  readonly siteId: number;
  readonly siteKey: string;
  readonly siteZone: string;
  readonly isDue: boolean;
}

/** Called inside a transaction, in which nobody else takes them. */
export async function dueWatches(store: Store, most: number): Promise<readonly DueWatch[]> {
  const rows = await emOf(store).execute<DueWatch[]>(
    `select ${COLUMNS}, w.site_id as "siteId", s.key as "siteKey", s.time_zone as "siteZone",
       coalesce(w.next_at <= now(), false) as "isDue"
     from site_watch w join site s on s.id = w.site_id
     where w.cron is not null and (w.next_at <= now() or w.zone <> s.time_zone)
     order by w.next_at limit ? for update of w skip locked`,
    [most],
  );
  return rows.map(toWatch);
}

/** Says when the visits of a site come next. */
export async function moveWatch(
  store: Store,
  { siteId }: Pick<DueWatch, 'siteId'>,
  zone: string,
  nextAt: Date | null,
): Promise<void> {
  await emOf(store).execute('update site_watch set zone = ?, next_at = ? where site_id = ?', [
    ...[zone, nextAt, siteId],
  ]);
}
