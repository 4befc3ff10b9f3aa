import type { HandlersOf } from '../http/context.js';
import { copyToSites } from '../site/copy-snippet.js';
import { createSnippet, editSnippet, removeSnippet, snippetTag } from '../site/edit-snippet.js';
import { findSnippet } from '../site/find-snippet.js';
import { keyOrFromName } from '../site/key-or-from-name.js';
import { moveSnippets } from '../site/move-snippets.js';
import type { SeenDrafts } from '../site/seen-drafts.js';
import type { Sets } from '../site/sets.js';
import { showDraft } from '../site/show-draft.js';
import { findSite } from '../site/site-lock.js';
import { snippetHistory } from '../site/snippet-history.js';
import { switchSnippets } from '../site/switch-snippets.js';
import { snippetResource } from '../site/snippet-resource.js';

export function snippetHandlers(
  sets: Sets,
  seenDrafts: SeenDrafts,
): HandlersOf<
  | 'listSnippets'
  | 'createSnippet'
  | 'switchSnippets'
  | 'moveSnippets'
  | 'showSnippet'
  | 'editSnippet'
  | 'removeSnippet'
  | 'copySnippet'
  | 'showHistory'
  | 'showDraft'
> {
  return {
    async listSnippets({ params }, { store }) {
      const { snippets } = await sets.draft(store, await findSite(store, params.site));
      return { data: { items: snippets.map(snippetResource) } };
    },

    async createSnippet({ params, body }, context) {
      const key = keyOrFromName(body.key, body.name);
      const made = await createSnippet(params.site, { ...body, key }, context);
      return { ...answer(made), location: `/api/v1/sites/${params.site}/snippets/${key}` };
    },

    async switchSnippets({ params, body }, context) {
      const switched = await switchSnippets(params.site, body.snippets, body.state, context);
      return { data: { items: switched.map(snippetResource) } };
    },

    async moveSnippets({ params, body }, context) {
      return { data: await moveSnippets(sets, params.site, body.snippets, body.placement, context) };
    },

    async showSnippet({ params }, { store }) {
      return answer(await findSnippet(store, await findSite(store, params.site), params.snippet));
    },

    async editSnippet({ params, body }, context) {
      return answer(await editSnippet(params.site, params.snippet, body, context.ifMatch, context));
    },

    async removeSnippet({ params }, context) {
      await removeSnippet(params.site, params.snippet, context.ifMatch, context);
      return { data: undefined };
    },

    async copySnippet({ params, body }, context) {
      return { data: { items: await copyToSites(params.site, params.snippet, body.sites, context) } };
    },

    async showHistory({ params }, { store }) {
      const site = await findSite(store, params.site);
      return { data: { items: await snippetHistory(store, site, params.snippet) } };
    },

    async showDraft({ params }, { store }) {
      return showDraft(sets, seenDrafts, store, params.site);
    },
  };
}

function answer(found: Awaited<ReturnType<typeof findSnippet>>) {
  return { data: snippetResource(found), etag: snippetTag(found) };
}
