import { siteJsonSchema } from '@pragmatica/contract';
import type { Snapshot } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import type { Settings } from '../settings.js';
import { importSet } from '../site/import-set.js';
import { exportSite, importSite } from '../site/site-file.js';
import type { SiteTools } from '../site/use-case.js';

export function fileHandlers(
  tools: SiteTools,
  { PRAGMATICA_GATEWAY_PORT: gatewayPort }: Pick<Settings, 'PRAGMATICA_GATEWAY_PORT'>,
): HandlersOf<'importSet' | 'exportSite' | 'importSite' | 'showSiteSchema'> {
  return {
    async importSet({ params, body }, context) {
      const { ifMatch, locale } = context;
      const request = { ...body, set: body.set as Snapshot, ifMatch, locale };
      return importSet(tools, params.site, request, context);
    },

    async exportSite({ params }, { store }) {
      return { data: await exportSite(tools, store, params.site) };
    },

    async importSite({ body }, context) {
      const { store, actor, access, locale } = context;
      const imported = await importSite(tools, { ...body, locale }, { store, actor, access, gatewayPort });
      return {
        data: imported,
        ...(imported.isDone ? { location: `/api/v1/sites/${imported.key}` } : {}),
      };
    },

    showSiteSchema() {
      return Promise.resolve({ data: siteJsonSchema() });
    },
  };
}
