import type { Store } from '../storage/store.js';
import {
  normalizeLimits,
  ranksFor,
  type Limits,
  type RecipeLink,
  type UnrankedSnippet,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { fieldError } from '../texts/field-errors.js';
import { hasSnippet, insertSnippet, saveParts } from '../storage/draft.js';
import type { Site, Snippet } from '../storage/rows.js';
import { lastRanks, type LastRank } from '../storage/ranks.js';

/** A snippet as it is to be added. */
export type NewSnippet = Omit<UnrankedSnippet, 'limits' | 'recipe'> & {
  readonly limits?: unknown;
  readonly recipe?: RecipeLink | undefined;
};

/**
 * Adds a snippet to a draft, its parts last in their placements. Called inside the transaction that locked the site.
 *
 * @throws ServiceError 409 where the site has a snippet of that key
 */
export async function addSnippet(
  store: Store,
  site: Site,
  snippet: NewSnippet,
  actor: string,
): Promise<Snippet> {
  if (await hasSnippet(store, site, snippet.key)) {
    const errors = [fieldError('/key', 'key-taken', {})];
    throw new ServiceError('snippet-key-taken', { key: snippet.key }, { errors });
  }
  const last = await lastRanks(store, [site.id]);
  return createSnippet(store, site, snippet, { last: last.get(site.id) ?? [], actor });
}

/** The same where the key is known to be free. @param last - the last ranks of the site's placements */
export function createSnippet(
  store: Store,
  site: Site,
  { pages, parts, limits, needs = [], recipe, ...about }: NewSnippet,
  { last, actor }: { readonly last: readonly LastRank[]; readonly actor: string },
): Snippet {
  const snippet = insertSnippet(
    store,
    site,
    {
      ...about,
      include: [...pages.include],
      exclude: [...pages.exclude],
      limits: normalizeLimits(limits as Limits | undefined) ?? {},
      needs: [...needs],
      recipe: recipe ?? null,
    },
    actor,
  );
  const ranks = ranksFor(last, [], parts);
  saveParts(
    store,
    snippet,
    [],
    parts.map((part, position) => ({ ...part, rank: ranks[position]! })),
  );
  return snippet;
}
