import type { Store } from '../storage/store.js';
import { RecipeBook, type Recipe } from '@pragmatica/core';
import { allRecipes, recipeEdition } from '../storage/recipes.js';

/** The recipes that there are, as they were at one moment. */
export interface CachedRecipes {
  readonly book: RecipeBook;
  /** All of it, as plain data. */
  readonly recipes: readonly Recipe[];
  /** Another one whenever there are more. */
  readonly edition: string;
}

/** Versions of recipes never change, so they are read again only when there are more of them. */
export class RecipeCache {
  #cached: CachedRecipes = { book: new RecipeBook(), recipes: [], edition: '0 0' };

  /** One small query, and another one only where something is new. */
  async read(store: Store): Promise<CachedRecipes> {
    const edition = await recipeEdition(store);
    if (edition !== this.#cached.edition) {
      const recipes = await allRecipes(store);
      this.#cached = { book: new RecipeBook(recipes), recipes, edition };
    }
    return this.#cached;
  }
}
