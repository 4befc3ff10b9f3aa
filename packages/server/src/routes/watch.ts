import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { Settings } from '../settings.js';
import { listNotices, sendNotice, tryNotices } from '../site/watch/notices.js';
import { showWatchHistory } from '../site/watch/watch-history.js';
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
    async showWatch({ params }, { store }) {
      return showWatch(store, params.site, settings);
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

    async listNotices({ params, query: { limit, after } }, { store }) {
      return { data: await listNotices(store, params.site, { limit, after: numberPosition(after) }) };
    },

    async sendNotice({ params }, context) {
      return { data: await sendNotice(params.site, params.notice, context) };
    },
  };
}
