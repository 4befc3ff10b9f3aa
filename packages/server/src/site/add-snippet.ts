import type { EntityManager } from '@mikro-orm/postgresql';
import {
  normalizeLimits,
  ranksFor,
  type Limits,
  type RecipeLink,
  type UnrankedSnippet,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { fieldError } from '../texts/field-errors.js';
import { saveParts } from '../storage/draft.js';
import { SnippetEntity, type Site, type Snippet } from '../storage/entities/index.js';
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
  em: EntityManager,
  site: Site,
  snippet: NewSnippet,
  actor: string,
): Promise<Snippet> {
  if ((await em.count(SnippetEntity, { site, key: snippet.key })) > 0) {
    const errors = [fieldError('/key', 'key-taken', {})];
    throw new ServiceError('snippet-key-taken', { key: snippet.key }, { errors });
  }
  const last = await lastRanks(em, [site.id]);
  return createSnippet(em, site, snippet, { last: last.get(site.id) ?? [], actor });
}

/** The same where the key is known to be free. @param last - the last ranks of the site's placements */
export function createSnippet(
  em: EntityManager,
  site: Site,
  { pages, parts, limits, needs = [], recipe, ...about }: NewSnippet,
  { last, actor }: { readonly last: readonly LastRank[]; readonly actor: string },
): Snippet {
  const at = new Date();
  const { key, name, purpose, provider, note, state } = about;
  const snippet = em.create(
    SnippetEntity,
    {
      ...{ site, key, name, purpose, provider, note, state },
      ...(state === 'on' ? {} : { stateAt: at, stateBy: actor }),
      include: [...pages.include],
      exclude: [...pages.exclude],
      limits: normalizeLimits(limits as Limits | undefined) ?? {},
      needs: [...needs],
      recipe: recipe ?? null,
      updatedBy: actor,
      updatedAt: at,
      version: 1,
    },
    { persist: true },
  );
  const ranks = ranksFor(last, [], parts);
  saveParts(
    em,
    snippet,
    [],
    parts.map((part, position) => ({ ...part, rank: ranks[position]! })),
  );
  return snippet;
}
