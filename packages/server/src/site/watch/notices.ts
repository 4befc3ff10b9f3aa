import { testNotice } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { toPage } from '../../storage/cursor.js';
import { addNotices, noticesOf, sendAgain, type NewNotice, type NoticeRow } from '../../storage/notices.js';
import type { Site } from '../../storage/rows.js';
import { watchOf } from '../../storage/site-watches.js';
import type { Store } from '../../storage/store.js';
import { webhooksOf } from '../../storage/webhooks.js';
import type { NewestListing } from '../activity.js';
import { findSite } from '../site-lock.js';
import type { Acting } from '../use-case.js';

export function noticeResource({ id, channel, target, subject, state, attempts, answer, ...row }: NoticeRow) {
  return {
    ...{ id, channel, target, subject, state, attempts, answer },
    nextAt: state === 'waiting' ? (row.nextAt?.toISOString() ?? null) : null,
    createdAt: row.createdAt.toISOString(),
    sentAt: row.sentAt?.toISOString() ?? null,
  };
}

/** What is told: to people as text, to programs as data. */
export interface Telling {
  readonly subject: string;
  readonly text: string;
  /** What it is, for programs, such as `snippets.changed`. */
  readonly type: string;
  /** Besides the site and the subject. */
  readonly data: object;
}

/**
 * Puts something in line for all whom a site tells.
 *
 * @param options - isForPeople: they get a mail of it; programs are told in any case. mailTo: addresses in place of those whom the site
 *   tells otherwise
 * @returns what was put there
 */
export async function tell(
  store: Store,
  site: Site,
  { subject, text, type, data }: Telling,
  {
    isForPeople = true,
    mailTo,
  }: { readonly isForPeople?: boolean; readonly mailTo?: readonly string[] } = {},
): Promise<readonly NoticeRow[]> {
  const people = mailTo ?? (isForPeople ? (await watchOf(store, site)).mailTo : []);
  const webhooks = await webhooksOf(store, site);
  const about = { site: { key: site.key, name: site.name }, subject };
  const body = JSON.stringify({ type, timestamp: new Date().toISOString(), data: { ...about, ...data } });
  const notices: NewNotice[] = [
    ...webhooks.map(({ id, url }) => ({
      ...{ channel: 'webhook' as const, target: url, webhookId: id },
      ...{ subject, body },
    })),
    ...people.map((address) => ({
      ...{ channel: 'mail' as const, target: address, webhookId: null },
      ...{ subject, body: text },
    })),
  ];
  return addNotices(store, site, notices);
}

/** Tells everybody a test. @throws ServiceError 404, 409 where there is nobody */
export async function tryNotices(key: string, { store }: Acting) {
  return store.transactional(async (transaction) => {
    const site = await findSite(transaction, key);
    const { subject, text } = testNotice(site.name);
    const notices = await tell(transaction, site, { subject, text, type: 'test', data: {} });
    if (notices.length === 0) throw new ServiceError('nobody-to-tell', {});
    return { items: notices.map(noticeResource), next: null };
  });
}

/** The notices of a site, the newest first. @throws ServiceError 404 */
export async function listNotices(store: Store, key: string, { limit, after }: NewestListing) {
  const site = await findSite(store, key);
  const rows = await noticesOf(store, site, limit + 1, after?.[0]);
  const { page, next } = toPage(rows, limit, ({ id }) => [id]);
  return { items: page.map(noticeResource), next };
}

/** Sends one once more. @throws ServiceError 404 */
export async function sendNotice(key: string, id: number, { store }: Acting) {
  const notice = await sendAgain(store, await findSite(store, key), id);
  if (!notice) throw new ServiceError('no-such-notice', { site: key, id });
  return noticeResource(notice);
}
