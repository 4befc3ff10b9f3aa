import type { HandlersOf } from '../http/context.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import { forgetAccess, giveAccess, listAccesses } from '../site/host-access.js';

export function accessHandlers(box: SecretBox): HandlersOf<'listAccesses' | 'giveAccess' | 'forgetAccess'> {
  return {
    async listAccesses({ params }, { store }) {
      return { data: { items: await listAccesses(store, params.site) } };
    },

    async giveAccess({ params, body }, context) {
      await giveAccess(box, params.site, params.host, body, context);
      return { data: undefined };
    },

    async forgetAccess({ params }, context) {
      await forgetAccess(params.site, params.host, context);
      return { data: undefined };
    },
  };
}
