import type { HandlersOf } from '../http/context.js';
import { fixDraft } from '../site/fix-draft.js';
import { listFindings } from '../site/list-findings.js';
import type { SiteTools } from '../site/use-case.js';
import { removeWaiver, waiveFinding } from '../site/waive.js';
import { worded, wordedFix } from '../site/worded.js';

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
    async readCode({ body: { code, statement } }, { store }) {
      const { recipes, edition } = await checks.recipeCache.read(store);
      return { data: await checks.readers.run('read', { code, statement, recipes, edition }) };
    },

    async listSkeletons({ params }, { store }) {
      const { skeletons } = await checks.prepare(store, params.site);
      return { data: { items: [...skeletons] } };
    },

    async listFindings({ params, query }, { store, locale }) {
      const { items, waived, counts, unknown } = await listFindings(tools, store, params.site, query);
      return { data: { items: worded(items, locale), waived: worded(waived, locale), counts, unknown } };
    },

    async fixFinding({ params, body }, context) {
      const input = { ...body, findings: [params.finding] };
      return { data: wordedFix(await fixDraft(tools, params.site, input, context), context.locale) };
    },

    async fixFindings({ params, body }, context) {
      return { data: wordedFix(await fixDraft(tools, params.site, body, context), context.locale) };
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
