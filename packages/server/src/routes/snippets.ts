import type { SiteResult } from '@pragmatica/contract';
import { difference, snapshotDigest, normalizeLimits } from '@pragmatica/core';
import { assertIfMatch } from '../http/if-match.js';
import { etag } from '../site/entity-tag.js';
import type { HandlersOf } from '../http/context.js';
import { addSnippet } from '../site/add-snippet.js';
import { findSnippet } from '../site/find-snippet.js';
import { audit, withSiteLock, findSite } from '../site/site-lock.js';
import { copySnippet } from '../site/copy-snippet.js';
import type { Sets } from '../site/sets.js';
import type { SeenDrafts } from '../site/seen-drafts.js';
import { draftTag, lastChange } from '../site/draft-tag.js';
import { setParts } from '../site/edit-draft.js';
import { snippetHistory } from '../site/snippet-history.js';
import { snippetResource } from '../site/snippet-resource.js';
import { setState, type DraftSnippet } from '../storage/draft.js';
import { toSnapshot } from '../storage/read-draft.js';
import { keyOrFromName } from '../site/key-or-from-name.js';

export function snippetHandlers(
  sets: Sets,
  seenDrafts: SeenDrafts,
): HandlersOf<
  | 'listSnippets'
  | 'createSnippet'
  | 'showSnippet'
  | 'editSnippet'
  | 'removeSnippet'
  | 'copySnippet'
  | 'showHistory'
  | 'showDraft'
> {
  return {
    async listSnippets({ params }, { em }) {
      const site = await findSite(em, params.site);
      return { data: { items: (await sets.draft(em, site)).snippets.map(snippetResource) } };
    },

    async createSnippet({ params, body }, { em, actor }) {
      const key = keyOrFromName(body.key, body.name);
      const made = await withSiteLock(em, params.site, async (transaction, site) => {
        await addSnippet(transaction, site, { ...body, key }, actor);
        audit(transaction, site, actor, 'snippet.add', `Added “${body.name}” to the draft.`);
        await transaction.flush();
        return findSnippet(transaction, site, key);
      });
      return { ...answer(made), location: `/api/v1/sites/${params.site}/snippets/${key}` };
    },

    async showSnippet({ params }, { em }) {
      return answer(await findSnippet(em, await findSite(em, params.site), params.snippet));
    },

    async editSnippet({ params, body }, { em, actor, ifMatch }) {
      const edited = await withSiteLock(em, params.site, async (transaction, site) => {
        const found = await findSnippet(transaction, site, params.snippet);
        const { snippet } = found;
        assertIfMatch(ifMatch, snippetTag(found), `“${snippet.name}”`, {
          by: snippet.updatedBy,
          at: snippet.updatedAt,
        });
        const before = toSnapshot(site, [found]);
        const { pages, parts, limits, state, ...rest } = body;
        Object.assign(snippet, rest, pages ?? {}, { updatedBy: actor, updatedAt: new Date() });
        if (limits) snippet.limits = normalizeLimits(limits) ?? {};
        if (state) setState(snippet, state, actor);
        if (parts) await setParts(transaction, site, snippet, found.parts, parts);
        await transaction.flush();
        const after = await findSnippet(transaction, site, params.snippet);
        const changes = difference(before, toSnapshot(site, [after])).map((change) => change.message);
        audit(
          transaction,
          site,
          actor,
          'snippet.edit',
          changes.length > 0 ? changes.join(' ') : `Saved “${snippet.name}” without changes.`,
        );
        await transaction.flush();
        return after;
      });
      return answer(edited);
    },

    async removeSnippet({ params }, { em, actor, ifMatch }) {
      await withSiteLock(em, params.site, async (transaction, site) => {
        const found = await findSnippet(transaction, site, params.snippet);
        const { snippet } = found;
        assertIfMatch(ifMatch, snippetTag(found), `“${snippet.name}”`, {
          by: snippet.updatedBy,
          at: snippet.updatedAt,
        });
        transaction.remove(snippet);
        audit(transaction, site, actor, 'snippet.remove', `Removed “${snippet.name}” from the draft.`);
        await transaction.flush();
      });
      return { data: undefined };
    },

    async copySnippet({ params, body }, { em, actor }) {
      const site = await findSite(em, params.site);
      const found = await findSnippet(em, site, params.snippet);
      const { site: from, snippets } = toSnapshot(site, [found]);
      const items: SiteResult[] = [];
      for (const key of new Set(body.sites))
        items.push(await copySnippet(em, snippets[0]!, from, key, actor));
      return { data: { items } };
    },

    async showHistory({ params }, { em }) {
      const site = await findSite(em, params.site);
      return { data: { items: await snippetHistory(em, site, params.snippet) } };
    },

    async showDraft({ params }, { em }) {
      const site = await findSite(em, params.site);
      const { snapshot } = await sets.draft(em, site);
      const last = await lastChange(em, site);
      const etag = draftTag(snapshot);
      await seenDrafts.remember(em, site, etag, snapshot);
      return {
        data: {
          snapshot,
          digest: snapshotDigest(snapshot),
          lastChange: last ? { by: last.by, at: last.at.toISOString() } : null,
        },
        etag,
      };
    },
  };
}

function snippetTag({ snippet }: DraftSnippet): string {
  return etag(`${snippet.key}-${snippet.version}`);
}

function answer(found: DraftSnippet) {
  return { data: snippetResource(found), etag: snippetTag(found) };
}
