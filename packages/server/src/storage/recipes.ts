import { UniqueConstraintViolationException } from '@mikro-orm/postgresql';
import type { Recipe } from '@pragmatica/core';
import { emOf } from './em.js';
import { RecipeEntity } from './entities/index.js';
import type { Store } from './store.js';

/** Another text whenever there are more recipes, or versions of them. One small query. */
export async function recipeEdition(store: Store): Promise<string> {
  const [counted] = await emOf(store).execute<{ count: number; last: number }[]>(
    'select count(*)::int as count, coalesce(max(id), 0)::int as last from recipe',
  );
  return `${counted!.count} ${counted!.last}`;
}

/** All versions of all recipes, the oldest first. */
export async function allRecipes(store: Store): Promise<Recipe[]> {
  const rows = await emOf(store).find(RecipeEntity, {}, { orderBy: { id: 'asc' } });
  return rows.map(({ body }) => body);
}

export interface VersionMade {
  readonly version: number;
  readonly createdBy: string;
  readonly createdAt: Date;
}

/** Who made which version of a recipe, and when; what they say is not read. */
export async function versionsMade(store: Store, key: string): Promise<readonly VersionMade[]> {
  return emOf(store).find(RecipeEntity, { key }, { fields: ['version', 'createdBy', 'createdAt'] });
}

/** Adds a version of a recipe to the unit of work. @param by - the login of whoever adds it */
export function insertRecipe(store: Store, recipe: Recipe, by: string): void {
  const { key, version } = recipe;
  emOf(store).create(
    RecipeEntity,
    { key, version, body: recipe, createdBy: by, createdAt: new Date() },
    { persist: true },
  );
}

/** Whether an error is the database's that something with this key is there already. */
export function isTaken(error: unknown): boolean {
  return error instanceof UniqueConstraintViolationException;
}
