import type { RecipeResource, RecipeSummary } from '@pragmatica/contract';
import { canonicalJson, recipeDifference, type Recipe, type RecipeBook } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import { insertRecipe, isTaken, versionsMade } from '../storage/recipes.js';
import type { Store } from '../storage/store.js';
import type { SomeSites } from '../storage/search.js';
import { countInstalls, listInstalls } from '../storage/recipe-uses.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface RecipeListing {
  readonly searched: string;
  readonly limit: number;
  /** Key of the recipe after which the page begins. */
  readonly after?: string | undefined;
  /** Sites whose installs are counted. */
  readonly seen: SomeSites;
}

/** A page of the recipes by name, and how many installs they have. One query. */
export async function listRecipes(
  store: Store,
  book: RecipeBook,
  { searched, limit, after, seen }: RecipeListing,
): Promise<{ items: RecipeSummary[]; next: string | null; all: number; behind: number }> {
  const words = searched.toLowerCase().split(/\s+/).filter(Boolean);
  const found = book.newest.filter(({ name, provider, summary, key }) => {
    const text = [name, provider, summary, key].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const start = after === undefined ? 0 : found.findIndex(({ key }) => key === after) + 1;
  const page = found.slice(start, start + limit);
  const counts = new Map(
    (await countInstalls(store, book.newest, seen)).map((count) => [count.recipe, count]),
  );
  return {
    items: page.map((recipe) => ({
      recipe: recipe as RecipeSummary['recipe'],
      installs: counts.get(recipe.key)?.installs ?? 0,
      behind: counts.get(recipe.key)?.behind ?? 0,
    })),
    next: start + limit < found.length ? page.at(-1)!.key : null,
    all: found.length,
    behind: [...counts.values()].reduce((sum, { behind }) => sum + behind, 0),
  };
}

/** A recipe with its versions and its installs at some sites. Two queries. @throws ServiceError 404 */
export async function describeRecipe(
  store: Store,
  book: RecipeBook,
  key: string,
  seen: SomeSites,
): Promise<RecipeResource> {
  const recipe = findRecipe(book, key);
  const made = new Map((await versionsMade(store, key)).map((one) => [one.version, one]));
  return {
    recipe: recipe as RecipeResource['recipe'],
    versions: book.versions(key).map((version, index, all) => {
      const row = made.get(version.version)!;
      const before = all[index + 1];
      return {
        version: version.version,
        by: row.createdBy,
        at: row.createdAt.toISOString(),
        changes: before ? recipeDifference(before, version) : [],
      };
    }),
    uses: await listInstalls(store, recipe, seen),
  };
}

/** @throws ServiceError 404 */
export function findRecipe(book: RecipeBook, key: string): Recipe {
  const recipe = book.find(key);
  if (!recipe) throw new ServiceError('no-such-recipe', { recipe: key });
  return recipe;
}

/** One version of a recipe. @throws ServiceError 404 */
export function findVersion(book: RecipeBook, key: string, version: number): Recipe {
  const recipe = book.version(key, version);
  if (recipe) return recipe;
  const known = findRecipe(book, key);
  throw new ServiceError('no-such-version', { name: known.name, version, newest: known.version });
}

/**
 * Adds a recipe, or a newer version of one.
 *
 * @returns whether it is new: a version that is there already is left as it is
 * @throws ServiceError 409 where that version says something else
 */
export async function importRecipe(
  store: Store,
  book: RecipeBook,
  recipe: Recipe,
  actor: string,
): Promise<boolean> {
  const there = book.version(recipe.key, recipe.version);
  if (there && canonicalJson(there) !== canonicalJson(recipe)) throw versionTaken(recipe, book);
  if (!there) await keepRecipe(store.fork(), recipe, actor);
  return !there;
}

/** Keeps a version. @throws ServiceError 409 where somebody else was faster */
export async function keepRecipe(store: Store, recipe: Recipe, actor: string): Promise<void> {
  try {
    insertRecipe(store, recipe, actor);
    audit(store, null, actor, 'recipe.add', () =>
      say(SITE_TEXTS.addedVersionVersion, { version: recipe.version, name: recipe.name }),
    );
    await store.flush();
  } catch (error) {
    if (!isTaken(error)) throw error;
    throw versionTaken(recipe);
  }
}

function versionTaken({ name, version, key }: Recipe, book?: RecipeBook): ServiceError {
  const next = (book?.find(key)?.version ?? version) + 1;
  return errorAt('/version', 'version-taken', { name, version, next });
}
