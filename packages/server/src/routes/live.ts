import type { HandlersOf } from '../http/context.js';
import { followSite } from '../site/live/follow-site.js';
import type { LiveHub } from '../site/live/live-hub.js';
import { findSite } from '../site/site-lock.js';

/** What happens to a site while somebody looks at it. */
export function liveHandlers(hub: LiveHub): HandlersOf<'followSite'> {
  return {
    async *followSite({ params, query: { at, editing } }, { store, credential, response }) {
      const left = new AbortController();
      response.once('close', () => left.abort());
      const site = await findSite(store, params.site);
      yield* followSite(hub, store, site, {
        member: credential!.member,
        at: at === undefined ? undefined : { place: at, isEditing: editing === 'yes' },
        signal: left.signal,
      });
    },
  };
}
