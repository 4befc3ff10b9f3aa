import type { HandlersOf } from '../http/context.js';
import { numberPosition } from '../http/page-position.js';
import { showApproval } from '../site/approvals/detail.js';
import { decideByLink, linkApproval, openApproval } from '../site/approvals/links.js';
import { askApproval, decideApproval, listApprovals, withdrawApproval } from '../site/approvals/requests.js';
import { setApprovalRule } from '../site/approvals/rule.js';
import type { Home } from '../site/watch/tell-act.js';
import type { SiteTools } from '../site/use-case.js';

/** Four eyes: what goes live is looked at by somebody else first. */
export function approvalHandlers(
  tools: SiteTools,
  home: Home,
): HandlersOf<
  | 'listApprovals'
  | 'setApprovalRule'
  | 'askApproval'
  | 'showApproval'
  | 'decideApproval'
  | 'withdrawApproval'
  | 'linkApproval'
  | 'openApproval'
  | 'decideByLink'
> {
  const { sets } = tools;
  return {
    async listApprovals({ params, query: { limit, after } }, { store }) {
      const listing = { limit, after: numberPosition(after) };
      return { data: await listApprovals(sets, store, params.site, listing) };
    },

    async setApprovalRule({ params, body }, context) {
      return { data: await setApprovalRule(params.site, body.isNeeded, context) };
    },

    async askApproval({ params, body }, context) {
      const request = { ...body, ifMatch: context.ifMatch };
      const data = await askApproval({ sets, home }, params.site, request, context);
      return { data, location: `/api/v1/sites/${params.site}/approvals/${data.id}` };
    },

    async showApproval({ params }, { store, actor, locale }) {
      const looking = { who: actor, locale };
      return { data: await showApproval(tools, store, params.site, params.approval, looking) };
    },

    async decideApproval({ params, body }, context) {
      return { data: await decideApproval({ sets, home }, params.site, params.approval, body, context) };
    },

    async withdrawApproval({ params }, context) {
      await withdrawApproval({ sets, home }, params.site, params.approval, context);
      return { data: undefined };
    },

    async linkApproval({ params, body }, context) {
      return { data: await linkApproval(params.site, params.approval, body, context) };
    },

    async openApproval({ body }, { store, locale }) {
      return { data: await openApproval(tools, store, body.secret, locale) };
    },

    async decideByLink({ body }, { store, locale }) {
      return { data: await decideByLink({ ...tools, home }, store, body, locale) };
    },
  };
}
