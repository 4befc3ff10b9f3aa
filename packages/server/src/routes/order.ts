import type { HandlersOf } from '../http/context.js';
import { changeOrder, rightOrder, showOrder, showOrderReport } from '../site/order.js';
import type { SiteTools } from '../site/use-case.js';
import { wordedFix } from '../site/worded.js';

export function orderHandlers(
  tools: SiteTools,
): HandlersOf<'showOrder' | 'changeOrder' | 'showOrderReport' | 'rightOrder'> {
  return {
    async showOrder({ params }, { store }) {
      return showOrder(tools, store, params.site);
    },

    async changeOrder({ params, body }, context) {
      return changeOrder(tools, params.site, body.lists, context.ifMatch, context);
    },

    async showOrderReport({ params, query }, { store }) {
      return { data: await showOrderReport(tools, store, params.site, query.of) };
    },

    async rightOrder({ params, body }, context) {
      return { data: wordedFix(await rightOrder(tools, params.site, body, context), context.locale) };
    },
  };
}
