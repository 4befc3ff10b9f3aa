import type { HandlersOf } from '../http/context.js';
import type { SiteChecks } from '../site/site-checks.js';
import type { Sets } from '../site/sets.js';
import { listBoxes, setBoxes, showBlocks, tickBlock } from '../site/paste/blocks.js';
import { fragmentIncludes, fragmentServer, lineName, lineTag } from '@pragmatica/core';
import { findSite } from '../site/site-lock.js';
import { checkBlocks } from '../site/paste/check-blocks.js';
import { fragmentBase, lineBase } from '../site/line-address.js';
import type { Settings } from '../settings.js';

export function pasteHandlers(
  { client, readers }: Pick<SiteChecks, 'client' | 'readers'>,
  sets: Sets,
  settings: Settings,
): HandlersOf<'listBoxes' | 'setBoxes' | 'showBlocks' | 'tickBlock' | 'checkBlocks' | 'showLine'> {
  const tools = { sets, client, readers };
  return {
    async listBoxes({ params }, { store }) {
      return { data: { items: [...(await listBoxes(store, params.site))] } };
    },

    async setBoxes({ params, body }, context) {
      return { data: { items: [...(await setBoxes(params.site, body.boxes, context))] } };
    },

    async showBlocks({ params, query }, { store }) {
      return { data: await showBlocks(tools, store, params.site, query) };
    },

    async tickBlock({ params, body }, context) {
      return { data: await tickBlock(tools, params.site, body, context) };
    },

    async showLine({ params, query }, { store }) {
      const { key } = await findSite(store, params.site);
      const name = lineName(key, query.environment);
      const base = lineBase(settings);
      const fragments = fragmentBase(settings);
      return {
        data: {
          ...{ order: lineTag(base, name, 'order'), async: lineTag(base, name, 'async') },
          fragments: {
            base: `${fragments}/${name}`,
            includes: fragmentIncludes(fragments, name),
            nginx: fragmentServer(fragments, name),
          },
        },
      };
    },

    async checkBlocks({ params, query }, { store }) {
      return { data: await checkBlocks(tools, store, params.site, query.environment) };
    },
  };
}
