import {
  sayAllDeferred,
  sayDeferred,
  standingLanguage,
  testNotice,
  type Translation,
} from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import { languageByTag } from '../../language/languages.js';
import { deferMessages, speakAsInstalled, speakIn } from '../../language/speech.js';
import { mailAddressOf } from '../../storage/mail-address.js';
import { membersWithLanguage } from '../../storage/members.js';
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
 * Puts something in line for all whom a site tells: for members in the language that they have chosen, otherwise in the
 * installation’s.
 *
 * @param compose - says it
 * @param options - isForPeople: they get a mail of it; programs are told in any case. mailTo: addresses in place of those whom the site
 *   tells otherwise
 * @returns what was put there
 */
export async function tell(
  store: Store,
  site: Site,
  compose: () => Telling,
  {
    isForPeople = true,
    mailTo,
  }: { readonly isForPeople?: boolean; readonly mailTo?: readonly string[] } = {},
): Promise<readonly NoticeRow[]> {
  const telling = deferMessages(compose);
  const people = mailTo ?? (isForPeople ? (await watchOf(store, site)).mailTo : []);
  const webhooks = await webhooksOf(store, site);
  const languages = await languagesOfMail(store, people);
  const { subject, type, data } = speakAsInstalled(() => sayAllDeferred(telling));
  const about = { site: { key: site.key, name: site.name }, subject };
  const body = JSON.stringify({ type, timestamp: new Date().toISOString(), data: { ...about, ...data } });
  const notices: NewNotice[] = [
    ...webhooks.map(({ id, url }) => ({
      ...{ channel: 'webhook' as const, target: url, webhookId: id },
      ...{ subject, body },
    })),
    ...people.map((address) => ({
      ...{ channel: 'mail' as const, target: address, webhookId: null },
      ...speakIn(languages.get(address) ?? standingLanguage(), () => toMail(telling)),
    })),
  ];
  return addNotices(store, site, notices);
}

/** A mail in the language of the moment. */
function toMail({ subject, text }: Telling): Pick<NewNotice, 'subject' | 'body'> {
  return { subject: sayDeferred(subject), body: sayDeferred(text) };
}

/** The languages that members have chosen to whom mails at some addresses go. */
async function languagesOfMail(
  store: Store,
  addresses: readonly string[],
): Promise<ReadonlyMap<string, Translation>> {
  if (addresses.length === 0) return new Map();
  const found = new Map<string, Translation>();
  for (const member of await membersWithLanguage(store)) {
    const address = mailAddressOf(member);
    const language = languageByTag(member.language);
    if (address !== null && language) found.set(address, language);
  }
  return found;
}

/** Tells everybody a test. @throws ServiceError 404, 409 where there is nobody */
export async function tryNotices(key: string, { store }: Acting) {
  return store.transactional(async (transaction) => {
    const site = await findSite(transaction, key);
    const compose = (): Telling => ({ ...testNotice(site.name), type: 'test', data: {} });
    const notices = await tell(transaction, site, compose);
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
