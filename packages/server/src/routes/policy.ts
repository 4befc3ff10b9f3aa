import type { HandlersOf } from '../http/context.js';
import type { Settings } from '../settings.js';
import { clearReports, setPolicy, showPolicy } from '../site/content-policy.js';
import { lineBase, reportAddress } from '../site/line-address.js';
import type { SiteTools } from '../site/use-case.js';

export function policyHandlers(
  tools: SiteTools,
  settings: Settings,
): HandlersOf<'showPolicy' | 'setPolicy' | 'clearPolicyReports'> {
  const addresses = { lineBase: lineBase(settings), reportsTo: reportAddress(settings) };
  return {
    async showPolicy({ params }, { store }) {
      return { data: await showPolicy(tools, store, params.site, params.host, addresses) };
    },

    async setPolicy({ params, body }, context) {
      return { data: await setPolicy(tools, params.site, params.host, body, addresses, context) };
    },

    async clearPolicyReports({ params }, context) {
      await clearReports(params.site, params.host, context);
      return { data: undefined };
    },
  };
}
