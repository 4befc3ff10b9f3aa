import type { HandlersOf } from '../http/context.js';
import { showChecklist, tickStep } from '../site/checklist.js';
import type { SiteTools } from '../site/use-case.js';

export function checklistHandlers(tools: SiteTools): HandlersOf<'showChecklist' | 'tickStep'> {
  return {
    async showChecklist({ params }, { store }) {
      return { data: { items: await showChecklist(tools, store, params.site) } };
    },

    async tickStep({ params, body }, context) {
      return { data: { items: await tickStep(tools, params.site, body, context) } };
    },
  };
}
