import { readCode, type Facts } from '../facts/index.js';
import { filledSnapshot, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';
import type { RecipeBook } from './book.js';
import type { RecipeUse } from './checklist.js';
import type { Recipe } from './types.js';

/** The newest version of the recipe that a snippet is an install of: the one that it follows, or that its code tells. */
export function recipeOf(
  snippet: SnapshotSnippet,
  facts: readonly Facts[],
  book: RecipeBook,
): Recipe | undefined {
  if (snippet.recipe) return book.find(snippet.recipe.key);
  for (const one of facts) {
    const recipe = book.recognise(one);
    if (recipe) return recipe;
  }
  return undefined;
}

/** Which recipes a set uses, by hand or applied; what is in the archive does not count. */
export function recipeUses(
  snapshot: Snapshot,
  book: RecipeBook,
  read: (code: string) => Facts = readCode,
): RecipeUse[] {
  const found = new Map<string, { recipe: Recipe; snippets: SnapshotSnippet[] }>();
  for (const snippet of filledSnapshot(snapshot, 'live').snippets) {
    if (snippet.state === 'archived') continue;
    const recipe = recipeOf(
      snippet,
      snippet.parts.map(({ code }) => read(code)),
      book,
    );
    if (!recipe) continue;
    const use = found.get(recipe.key);
    if (use) use.snippets.push(snippet);
    else found.set(recipe.key, { recipe, snippets: [snippet] });
  }
  return [...found.values()].sort((a, b) => (a.recipe.name < b.recipe.name ? -1 : 1));
}
