import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import type { Settings } from '../settings.js';
import { describeActivity } from '../site/activity-detail.js';
import { listActivity, listRemoved, listTrail } from '../site/activity.js';
import { headFromText, verifyTrail } from '../site/verify-trail.js';
import type { Sets } from '../site/sets.js';
import { undoChange } from '../site/undo-change.js';
import { chainHead } from '../storage/trail-chain.js';

/** What was done, and undoing it. */
export function trailHandlers(
  sets: Sets,
  { PRAGMATICA_TRAIL_DAYS: keptDays }: Pick<Settings, 'PRAGMATICA_TRAIL_DAYS'>,
): HandlersOf<
  | 'listActivity'
  | 'showActivity'
  | 'undoActivity'
  | 'listRemovedSnippets'
  | 'listTrail'
  | 'showTrailHead'
  | 'verifyTrail'
> {
  return {
    async listActivity({ params, query: { q, after, ...query } }, { store, access }) {
      const listing = { ...query, words: q, after: numberPosition(after) };
      return { data: await listActivity(store, params.site, listing, access) };
    },

    async showActivity({ params }, { store, access }) {
      return { data: await describeActivity(store, params.site, params.entry, access) };
    },

    async undoActivity({ params, body }, context) {
      const request = { ...body, ifMatch: context.ifMatch };
      return undoChange(sets, params.site, params.entry, request, context);
    },

    async listRemovedSnippets({ params, query }, { store }) {
      return { data: { items: await listRemoved(store, params.site, query.limit) } };
    },

    async listTrail({ query: { q, after, ...query } }, { store }) {
      return { data: await listTrail(store, { ...query, words: q, after: numberPosition(after) }) };
    },

    async showTrailHead(_input, { store }) {
      return { data: await chainHead(store) };
    },

    verifyTrail({ query }, { store }) {
      return verifyTrail(store, { keptDays, expected: headFromText(query.head) });
    },
  };
}
