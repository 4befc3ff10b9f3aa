import { memoizeByObject } from '../memoize/by-object.js';
import type { Facts } from '../facts/index.js';
import type { RecipeLink } from '../snapshot/index.js';
import { recogniseRecipe } from './recognise.js';
import type { Recipe } from './types.js';

/** Recipes in all the versions that are known. */
export class RecipeBook {
  /** The newest version of each, by name. */
  readonly newest: readonly Recipe[];
  readonly #newest = new Map<string, Recipe>();
  readonly #versions = new Map<string, Recipe>();
  readonly #recognised = memoizeByObject((facts: Facts) => ({ recipe: recogniseRecipe(facts, this.newest) }));

  constructor(recipes: readonly Recipe[] = []) {
    for (const recipe of recipes) {
      this.#versions.set(versionKey(recipe), recipe);
      if (recipe.version > (this.#newest.get(recipe.key)?.version ?? 0)) this.#newest.set(recipe.key, recipe);
    }
    this.newest = [...this.#newest.values()].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  }

  find(key: string): Recipe | undefined {
    return this.#newest.get(key);
  }

  version(key: string, version: number): Recipe | undefined {
    return this.#versions.get(versionKey({ key, version }));
  }

  /** The versions of a recipe, the newest first. */
  versions(key: string): Recipe[] {
    return [...this.#versions.values()]
      .filter((recipe) => recipe.key === key)
      .sort((a, b) => b.version - a.version);
  }

  /** The newest version of the recipe that code is an install of. What was found is kept by the facts. */
  recognise(facts: Facts): Recipe | undefined {
    return this.#recognised(facts).recipe;
  }

  /** The version that a snippet follows. */
  followed(link: RecipeLink | undefined): Recipe | undefined {
    return link && this.version(link.key, link.version);
  }
}

function versionKey({ key, version }: Pick<Recipe, 'key' | 'version'>): string {
  return `${key} ${version}`;
}
