import { mayAt } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';
import { listNotices, sendNotice, tryNotices } from '../site/watch/notices.js';
import { showWatchHistory } from '../site/watch/watch-history.js';
import { onlyHost } from '../site/watch/only-host.js';
import { setWatch, showWatch } from '../site/watch/watch-settings.js';
import { addWebhook, removeWebhook } from '../site/watch/webhooks.js';

export function watchHandlers(
  settings: Settings,
  box: SecretBox,
): HandlersOf<
  | 'showWatch'
  | 'setWatch'
  | 'showWatchHistory'
  | 'addWebhook'
  | 'removeWebhook'
  | 'tryNotices'
  | 'listNotices'
  | 'sendNotice'
> {
  return {
    async showWatch({ params }, { store, access }) {
      const watch = await showWatch(store, params.site, settings);
      if (mayAt(access, params.site, 'own')) return watch;
      const webhooks = watch.data.webhooks.map((one) => ({ ...one, url: onlyHost(one.url) }));
      return { ...watch, data: { ...watch.data, webhooks } };
    },

    async setWatch({ params, body }, context) {
      return setWatch(params.site, body, settings, context.ifMatch, context);
    },

    async showWatchHistory({ params, query }, { store }) {
      return { data: await showWatchHistory(store, params.site, query.host) };
    },

    async addWebhook({ params, body }, context) {
      return { data: await addWebhook(box, params.site, body.url, context) };
    },

    async removeWebhook({ params }, context) {
      await removeWebhook(params.site, params.webhook, context);
      return { data: undefined };
    },

    async tryNotices({ params }, context) {
      return { data: await tryNotices(params.site, context) };
    },

    async listNotices({ params, query: { limit, after } }, { store, access }) {
      const listed = await listNotices(store, params.site, { limit, after: numberPosition(after) });
      if (mayAt(access, params.site, 'own')) return { data: listed };
      const items = listed.items.map((one) => ({ ...one, target: onlyHost(one.target) }));
      return { data: { ...listed, items } };
    },

    async sendNotice({ params }, context) {
      return { data: await sendNotice(params.site, params.notice, context) };
    },
  };
}
