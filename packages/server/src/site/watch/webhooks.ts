import { randomBytes } from 'node:crypto';
import { plainChanges } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { SecretBox } from '../../outgoing/secret-box.js';
import { SEAL_PURPOSES } from '../../outgoing/seal-purposes.js';
import { audit } from '../../storage/trail.js';
import {
  addWebhook as insertWebhook,
  removeWebhook as deleteWebhook,
  type Webhook,
} from '../../storage/webhooks.js';
import { say } from '../../texts/say.js';
import { WATCH_TEXTS as T } from '../../texts/watch.js';
import { withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';

/** Within the 24 to 64 bytes that the Standard Webhooks specification asks for. */
const SECRET_BYTES = 32;

export function webhookResource({ id, url, madeBy, madeAt }: Webhook) {
  return { id, url, by: madeBy, at: madeAt.toISOString() };
}

/** Tells a program from now on. Its secret is told once, here. @throws ServiceError 404 */
export async function addWebhook(box: SecretBox, key: string, url: string, { store, actor }: Acting) {
  return withSiteLock(store, key, async (transaction, site) => {
    const secret = `whsec_${randomBytes(SECRET_BYTES).toString('base64')}`;
    const sealed = box.seal(secret, SEAL_PURPOSES.webhook(site.id, url));
    const webhook = await insertWebhook(transaction, site, { url, sealed, madeBy: actor });
    const { host } = new URL(url);
    const changes = plainChanges('webhook', {}, { [host]: {} });
    audit(transaction, site, actor, 'watch.webhook', () => say(T.webhookAdded, { host }), changes);
    await transaction.flush();
    return { ...webhookResource(webhook), secret };
  });
}

/** @throws ServiceError 404 */
export async function removeWebhook(key: string, id: number, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const webhook = await deleteWebhook(transaction, site, id);
    if (!webhook) throw new ServiceError('no-such-webhook', { site: key, id });
    const { host } = new URL(webhook.url);
    const changes = plainChanges('webhook', { [host]: {} }, {});
    audit(transaction, site, actor, 'watch.webhook', () => say(T.webhookRemoved, { host }), changes);
    await transaction.flush();
  });
}
