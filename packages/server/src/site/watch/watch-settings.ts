import { createHash } from 'node:crypto';
import type { EndpointResponse, Endpoints } from '@pragmatica/contract';
import { deliveryOf, nextRun, plainChanges, scheduleProblem, scheduleWords } from '@pragmatica/core';
import { ServiceError, errorAt } from '../../errors.js';
import type { Settings } from '../../settings.js';
import { hostsOf } from '../../storage/hosts.js';
import type { Site } from '../../storage/rows.js';
import { saveWatch, watchOf, type SiteWatch } from '../../storage/site-watches.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { webhooksOf } from '../../storage/webhooks.js';
import { fieldError } from '../../texts/field-errors.js';
import { say } from '../../texts/say.js';
import { WATCH_TEXTS as T } from '../../texts/watch.js';
import { SCHEDULE_PROBLEMS } from '../schedule-problems.js';
import { findSite, withSiteLock } from '../site-lock.js';
import { etag, type LastChange } from '../entity-tag.js';
import { assertIfMatch } from '../if-match.js';
import type { Acting, Tagged } from '../use-case.js';
import { webhookResource } from './webhooks.js';

type Watch = EndpointResponse<Endpoints['showWatch']>;
export type MailSettings = Pick<Settings, 'PRAGMATICA_SMTP_URL'>;

/** How a site is to be watched. */
export type WatchRequest = Pick<
  SiteWatch,
  'cron' | 'afterPublishing' | 'needsRehearsal' | 'mailTo' | 'budgetKb' | 'thirdParties' | 'hostAnswers'
>;

const TAG_LENGTH = 16;

/** How a site is watched, and who is told. @throws ServiceError 404 */
export async function showWatch(store: Store, key: string, settings: MailSettings): Promise<Tagged<Watch>> {
  return watchResource(store, await findSite(store, key), settings);
}

/**
 * Changes how a site is watched.
 *
 * @param ifMatch - how it was, as whoever asks has seen it
 * @throws ServiceError 404, 412, 422
 */
export async function setWatch(
  key: string,
  { cron: written, mailTo: typed, ...rest }: WatchRequest,
  settings: MailSettings,
  ifMatch: string,
  { store, actor }: Acting,
): Promise<Tagged<Watch>> {
  return withSiteLock(store, key, async (transaction, site) => {
    const former = await watchOf(transaction, site);
    assertIfMatch(ifMatch, tagOf(former), T.settings, lastChange(former));
    const cron = written === null ? null : written.trim().replace(/\s+/g, ' ');
    const now = new Date();
    const problem = cron === null ? undefined : scheduleProblem(cron, site.timeZone, now);
    if (problem) throw errorAt('/cron', SCHEDULE_PROBLEMS[problem], { cron: cron ?? '' });
    const mailTo = [...new Set(typed)];
    if (mailTo.length > 0 && settings.PRAGMATICA_SMTP_URL === undefined) refuseMail(mailTo);
    const nextAt = cron === null ? null : (nextRun(cron, site.timeZone, now) ?? null);
    const watch: SiteWatch = { ...rest, cron, mailTo, zone: site.timeZone, nextAt, setBy: actor, setAt: now };
    await saveWatch(transaction, site, watch);
    const changes = plainChanges('watch', saidOf(key, former), saidOf(key, watch));
    audit(transaction, site, actor, 'watch.set', () => say(T.set, { what: wordsOf(watch) }), changes);
    await transaction.flush();
    return watchResource(transaction, site, settings);
  });
}

/** A mail that nobody sends is worse than none. */
function refuseMail(addresses: readonly string[]): never {
  const errors = addresses.map((_, index) => fieldError(`/mailTo/${index}`, 'nobody-mails', {}));
  throw new ServiceError('mail-not-set-up', {}, { errors });
}

function wordsOf({ cron, afterPublishing, needsRehearsal, mailTo, budgetKb, ...others }: SiteWatch): string {
  const after = { nothing: T.afterNothing, look: T.afterLook, 'put-back': T.afterPutBack }[afterPublishing];
  return [
    cron === null ? T.never : say(T.scheduled, { when: scheduleWords(cron) }),
    after,
    ...(needsRehearsal ? [T.rehearsed] : []),
    say(T.mail, { count: mailTo.length }),
    ...(budgetKb === null ? [] : [say(T.budget, { kb: budgetKb })]),
    ...thirdPartyWords(others),
  ].join('; ');
}

function thirdPartyWords({
  thirdParties,
  hostAnswers,
}: Pick<SiteWatch, 'thirdParties' | 'hostAnswers'>): readonly string[] {
  const words = { real: [], 'stand-ins': [T.standIns], blocked: [T.blocked] }[thirdParties];
  return hostAnswers.length === 0 ? words : [...words, say(T.hostAnswers, { count: hostAnswers.length })];
}

/** Of what can be set, and nothing that changes by itself. */
function tagOf({ cron, afterPublishing, needsRehearsal, mailTo, budgetKb, ...others }: SiteWatch): string {
  const { thirdParties, hostAnswers } = others;
  const text = JSON.stringify([
    ...[cron, afterPublishing, needsRehearsal, mailTo, budgetKb],
    ...[thirdParties, hostAnswers.map(({ host, answer }) => [host, answer])],
  ]);
  return etag(createHash('sha256').update(text).digest('hex').slice(0, TAG_LENGTH));
}

function lastChange({ setBy, setAt }: SiteWatch): LastChange | undefined {
  return setAt === null ? undefined : { by: setBy, at: setAt };
}

async function watchResource(store: Store, site: Site, settings: MailSettings): Promise<Tagged<Watch>> {
  const watch = await watchOf(store, site);
  const { cron, nextAt, afterPublishing, needsRehearsal, mailTo, budgetKb, thirdParties } = watch;
  const data = {
    ...{ cron, afterPublishing, needsRehearsal, mailTo: [...mailTo], budgetKb, thirdParties },
    hostAnswers: [...watch.hostAnswers],
    words: cron === null ? null : scheduleWords(cron),
    nextAt: nextAt?.toISOString() ?? null,
    canMail: settings.PRAGMATICA_SMTP_URL !== undefined,
    webhooks: (await webhooksOf(store, site)).map(webhookResource),
    hosts: (await hostsOf(store, site)).map(({ host, environment, delivery }) => ({
      ...{ host, environment },
      followsPublishing: deliveryOf(delivery).followsPublishing,
    })),
  };
  return { data, etag: tagOf(watch) };
}

/** What the trail keeps of it. */
function saidOf(key: string, watch: SiteWatch): Record<string, object> {
  return { [key]: { settings: wordsOf(watch) } };
}
