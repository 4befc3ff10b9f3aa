import type { HandlersOf } from '../http/context.js';
import { fixDraft } from '../site/fix-draft.js';
import { listFindings } from '../site/list-findings.js';
import type { SiteTools } from '../site/use-case.js';
import { removeWaiver, waiveFinding } from '../site/waive.js';

export function findingHandlers(
  tools: SiteTools,
): HandlersOf<
  | 'readCode'
  | 'listSkeletons'
  | 'listFindings'
  | 'fixFinding'
  | 'fixFindings'
  | 'waiveFinding'
  | 'removeWaiver'
> {
  const { checks } = tools;
  return {
    async readCode({ body: { code, statement } }, { em }) {
      const { recipes, edition } = await checks.recipeCache.read(em);
      return { data: await checks.readers.run('read', { code, statement, recipes, edition }) };
    },

    async listSkeletons({ params }, { em }) {
      const { skeletons } = await checks.prepare(em, params.site);
      return { data: { items: [...skeletons] } };
    },

    async listFindings({ params, query }, { em }) {
      return { data: await listFindings(tools, em, params.site, query) };
    },

    async fixFinding({ params, body }, context) {
      const input = { ...body, findings: [params.finding] };
      return { data: await fixDraft(tools, params.site, input, context) };
    },

    async fixFindings({ params, body }, context) {
      return { data: await fixDraft(tools, params.site, body, context) };
    },

    async waiveFinding({ params, body }, context) {
      return { data: await waiveFinding(tools, params.site, params.finding, body, context) };
    },

    async removeWaiver({ params }, context) {
      await removeWaiver(params.site, params.finding, context);
      return { data: undefined };
    },
  };
}
