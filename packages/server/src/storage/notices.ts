import { randomUUID } from 'node:crypto';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

export type NoticeState = 'waiting' | 'sent' | 'failed';

/** Something that is told to one program or one person. */
export interface NoticeRow {
  readonly id: number;
  /** The same with each attempt, so that whoever gets it twice can tell. */
  readonly publicId: string;
  readonly siteId: number;
  readonly channel: 'webhook' | 'mail';
  /** An address, of either kind. */
  readonly target: string;
  readonly webhookId: number | null;
  readonly subject: string;
  /** JSON for programs, plain text for people. */
  readonly body: string;
  readonly state: NoticeState;
  readonly attempts: number;
  readonly nextAt: Date | null;
  readonly answer: string | null;
  readonly createdAt: Date;
  readonly sentAt: Date | null;
}

const COLUMNS = `n.id, n.public_id as "publicId", n.site_id as "siteId", n.channel, n.target, n.webhook_id as "webhookId",
  n.subject, n.body, n.state, n.attempts, n.next_at as "nextAt", n.answer, n.created_at as "createdAt", n.sent_at as "sentAt"`;

function toNotice<T extends NoticeRow>(row: T): T {
  return {
    ...row,
    createdAt: new Date(row.createdAt),
    nextAt: row.nextAt && new Date(row.nextAt),
    sentAt: row.sentAt && new Date(row.sentAt),
  };
}

export type NewNotice = Pick<NoticeRow, 'channel' | 'target' | 'webhookId' | 'subject' | 'body'>;

/** Puts notices in line; a worker sends them. */
export async function addNotices(
  store: Store,
  site: Pick<Site, 'id'>,
  notices: readonly NewNotice[],
): Promise<readonly NoticeRow[]> {
  const added: NoticeRow[] = [];
  for (const { channel, target, webhookId, subject, body } of notices) {
    const [row] = await emOf(store).execute<NoticeRow[]>(
      `insert into notice as n (public_id, site_id, channel, target, webhook_id, subject, body)
       values (?, ?, ?, ?, ?, ?, ?) returning ${COLUMNS}`,
      [`msg_${randomUUID()}`, site.id, channel, target, webhookId, subject, body],
    );
    added.push(toNotice(row!));
  }
  return added;
}

/** The newest first. @param before - only those with a lower id */
export async function noticesOf(
  store: Store,
  site: Pick<Site, 'id'>,
  limit: number,
  before?: number,
): Promise<readonly NoticeRow[]> {
  const rows = await emOf(store).execute<NoticeRow[]>(
    `select ${COLUMNS} from notice n where n.site_id = ? ${before === undefined ? '' : 'and n.id < ?'}
     order by n.id desc limit ?`,
    [site.id, ...(before === undefined ? [] : [before]), limit],
  );
  return rows.map(toNotice);
}

/** A notice that is to be sent now, with what its webhook is signed with. */
export interface DueNotice extends NoticeRow {
  readonly sealed: string | null;
}

/**
 * Takes notices whose time has come. Nobody else takes them for a while; one whose sender died is taken again after it.
 */
export async function takeNotices(
  store: Store,
  most: number,
  whileMs: number,
): Promise<readonly DueNotice[]> {
  const rows = await emOf(store).execute<DueNotice[]>(
    `update notice n set attempts = attempts + 1, next_at = now() + ? * interval '1 millisecond'
     where n.id in (select id from notice where state = 'waiting' and next_at <= now() order by next_at limit ?
       for update skip locked)
     returning ${COLUMNS}, (select sealed from webhook w where w.id = n.webhook_id) as sealed`,
    [whileMs, most],
  );
  return rows.map(toNotice);
}

/** Says how an attempt went. @param retryS - after so many seconds another one follows; undefined for none */
export async function endAttempt(
  store: Store,
  { id }: Pick<NoticeRow, 'id'>,
  isSent: boolean,
  answer: string,
  retryS: number | undefined,
): Promise<void> {
  const state: NoticeState = isSent ? 'sent' : retryS === undefined ? 'failed' : 'waiting';
  await emOf(store).execute(
    `update notice set state = ?, answer = ?, sent_at = case when ? then now() end,
       next_at = case when ?::float8 is null then null else now() + ?::float8 * interval '1 second' end where id = ?`,
    [state, answer, isSent, retryS ?? null, retryS ?? null, id],
  );
}

/** Puts a notice in line once more, as if it were new. @returns undefined where there is none, or it waits already */
export async function sendAgain(
  store: Store,
  site: Pick<Site, 'id'>,
  id: number,
): Promise<NoticeRow | undefined> {
  const [row] = await emOf(store).execute<NoticeRow[]>(
    `update notice n set state = 'waiting', attempts = 0, next_at = now(), sent_at = null
     where n.site_id = ? and n.id = ? returning ${COLUMNS}`,
    [site.id, id],
  );
  return row && toNotice(row);
}

/** Removes notices that are over, but for the newest so many of each site. */
export async function sweepNotices(store: Store, kept: number): Promise<void> {
  await emOf(store).execute(
    `delete from notice where state <> 'waiting' and id in (
       select id from (select id, row_number() over (partition by site_id order by id desc) as place from notice) ranked
       where place > ?)`,
    [kept],
  );
}
