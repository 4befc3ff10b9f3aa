import type { EntityManager } from '@mikro-orm/postgresql';
import { RecipeBook, type Recipe } from '@pragmatica/core';
import { RecipeEntity } from '../storage/entities/index.js';

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
  async read(em: EntityManager): Promise<CachedRecipes> {
    const [counted] = await em.execute<{ count: number; last: number }[]>(
      'select count(*)::int as count, coalesce(max(id), 0)::int as last from recipe',
    );
    const edition = `${counted!.count} ${counted!.last}`;
    if (edition !== this.#cached.edition) {
      const rows = await em.find(RecipeEntity, {}, { orderBy: { id: 'asc' } });
      const recipes = rows.map(({ body }) => body);
      this.#cached = { book: new RecipeBook(recipes), recipes, edition };
    }
    return this.#cached;
  }
}
