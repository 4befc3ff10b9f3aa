import type { HandlersOf } from '../http/context.js';
import {
  endHandover,
  listHandovers,
  makeHandover,
  openHandover,
  tickHandover,
} from '../site/paste/handover.js';
import type { SiteChecks } from '../site/site-checks.js';
import type { Sets } from '../site/sets.js';

export function handoverHandlers(
  { client }: Pick<SiteChecks, 'client'>,
  sets: Sets,
): HandlersOf<'listHandovers' | 'createHandover' | 'endHandover' | 'openHandover' | 'tickHandover'> {
  const tools = { sets, client };
  return {
    async listHandovers({ params }, { store }) {
      return { data: { items: await listHandovers(store, params.site) } };
    },

    async createHandover({ params, body }, context) {
      return { data: await makeHandover(params.site, body, context) };
    },

    async endHandover({ params }, context) {
      await endHandover(params.site, params.handover, context);
      return { data: undefined };
    },

    async openHandover({ body }, { store }) {
      return { data: await openHandover(tools, store, body.secret) };
    },

    async tickHandover({ body: { secret, ...tick } }, { store }) {
      return { data: await tickHandover(tools, store, secret, tick) };
    },
  };
}
