import type { Store } from '../storage/store.js';
import { ServiceError } from '../errors.js';
import { saveSnippet, type DraftSnippet } from '../storage/draft.js';
import { saveDefinitions } from '../storage/sites.js';
import { toSnapshot } from '../storage/read-draft.js';
import type { Site } from '../storage/rows.js';
import { usedFields } from '../storage/field-names.js';
import { setParts } from './edit-draft.js';
import { findSnippet } from './find-snippet.js';
import { findRecipe } from './recipes.js';
import type { SiteChecks } from './site-checks.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

/**
 * Lets a snippet that was pasted by hand follow a recipe.
 *
 * @param named - the recipe; the one that its code tells where none is named
 * @throws ServiceError 404, 409
 */
export async function followRecipe(
  store: Store,
  site: Site,
  key: string,
  named: string | undefined,
  { checks, actor }: { readonly checks: SiteChecks; readonly actor: string },
): Promise<DraftSnippet> {
  const found = await findSnippet(store, site, key);
  const before = toSnapshot(site, [found]);
  const snippet = before.snippets[0]!;
  if (snippet.recipe)
    throw new ServiceError('follows-already', { name: snippet.name, recipe: snippet.recipe.key });
  const { book } = await checks.recipeCache.read(store);
  const recipe =
    named === undefined ? (await checks.recipeUses(store, before))[0]?.recipe : findRecipe(book, named);
  if (!recipe) throw new ServiceError('no-recipe-knows', { name: snippet.name });
  const used = await usedFields(store, [site.id]);
  const at = { site: before.site, usedFields: used.get(site.id) ?? [] };
  const followed = await checks.readers.run('followRecipe', { recipe, snippet, at });
  if ('problem' in followed)
    throw new ServiceError('cannot-follow', { name: snippet.name, problem: followed.problem });
  saveDefinitions(site, { fields: followed.fields });
  const link = { key: recipe.key, version: recipe.version, fields: followed.names };
  saveSnippet(found.snippet, { recipe: link }, actor);
  await setParts(store, site, found.snippet, found.parts, followed.parts);
  audit(store, site, actor, 'recipe.follow', () =>
    say(SITE_TEXTS.nameFollowsRecipe, {
      name: snippet.name,
      recipe: recipe.name,
      version: recipe.version,
    }),
  );
  await store.flush();
  return findSnippet(store, site, key);
}
