import type { EntityManager } from '@mikro-orm/postgresql';
import { ServiceError } from '../errors.js';
import { type DraftSnippet } from '../storage/draft.js';
import { toSnapshot } from '../storage/read-draft.js';
import type { Site } from '../storage/entities/index.js';
import { usedFields } from '../storage/field-names.js';
import { setParts } from './edit-draft.js';
import { findSnippet } from './find-snippet.js';
import { findRecipe } from './recipes.js';
import type { SiteChecks } from './site-checks.js';
import { audit } from './site-lock.js';

/**
 * Lets a snippet that was pasted by hand follow a recipe.
 *
 * @param named - the recipe; the one that its code tells where none is named
 * @throws ServiceError 404, 409
 */
export async function followRecipe(
  em: EntityManager,
  site: Site,
  key: string,
  named: string | undefined,
  { checks, actor }: { readonly checks: SiteChecks; readonly actor: string },
): Promise<DraftSnippet> {
  const found = await findSnippet(em, site, key);
  const before = toSnapshot(site, [found]);
  const snippet = before.snippets[0]!;
  if (snippet.recipe)
    throw new ServiceError('follows-already', { name: snippet.name, recipe: snippet.recipe.key });
  const { book } = await checks.recipeCache.read(em);
  const recipe =
    named === undefined ? (await checks.recipeUses(em, before))[0]?.recipe : findRecipe(book, named);
  if (!recipe) throw new ServiceError('no-recipe-knows', { name: snippet.name });
  const used = await usedFields(em, [site.id]);
  const at = { site: before.site, usedFields: used.get(site.id) ?? [] };
  const followed = await checks.readers.run('followRecipe', { recipe, snippet, at });
  if ('problem' in followed)
    throw new ServiceError('cannot-follow', { name: snippet.name, problem: followed.problem });
  site.fields = followed.fields;
  const link = { key: recipe.key, version: recipe.version, fields: followed.names };
  Object.assign(found.snippet, { recipe: link, updatedBy: actor, updatedAt: new Date() });
  await setParts(em, site, found.snippet, found.parts, followed.parts);
  const said = `“${snippet.name}” follows the recipe “${recipe.name}” from now on, version ${recipe.version}.`;
  audit(em, site, actor, 'recipe.follow', said);
  await em.flush();
  return findSnippet(em, site, key);
}
