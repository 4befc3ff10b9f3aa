import { memoizeByObject } from '../../memoize/by-object.js';
import type { RecipeBook } from '../../recipes/index.js';
import type { Tie } from '../tie.js';

/** A recipe that wants another to come before it, and that other one. */
export const byRecipe: Tie = ({ own }, set) => {
  const recipe = set.recipeOf(own);
  if (!recipe) return [];
  const { key, after } = recipe;
  return needed(set.book).has(key) ? [key, ...after] : after;
};

/** Keys of the recipes that others want before them. */
const needed = memoizeByObject(
  ({ newest }: RecipeBook): ReadonlySet<string> => new Set(newest.flatMap(({ after }) => after)),
);
