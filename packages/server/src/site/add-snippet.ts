import type { EntityManager } from '@mikro-orm/postgresql';
import { normalizeLimits, type Limits, type RecipeLink, type UnrankedSnippet } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { SnippetEntity, type Site, type Snippet } from '../storage/entities/index.js';
import { setParts } from './edit-draft.js';

/**
 * Adds a snippet to a draft, its parts last in their placements. Called inside the transaction that locked the site.
 *
 * @throws ServiceError 409 where the site has a snippet of that key
 */
export async function addSnippet(
  em: EntityManager,
  site: Site,
  {
    pages,
    parts,
    limits,
    needs = [],
    recipe,
    ...about
  }: Omit<UnrankedSnippet, 'limits' | 'recipe'> & {
    readonly limits?: unknown;
    readonly recipe?: RecipeLink | undefined;
  },
  actor: string,
): Promise<Snippet> {
  if ((await em.count(SnippetEntity, { site, key: about.key })) > 0) {
    const detail = `The site has a snippet "${about.key}" already. Give another name or key.`;
    throw new ServiceError('conflict', detail, {
      errors: [{ pointer: '/key', detail: 'This key is taken.' }],
    });
  }
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
  await setParts(em, site, snippet, [], parts);
  return snippet;
}
