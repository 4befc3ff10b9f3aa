import type { Store } from '../storage/store.js';
import {
  canonicalJson,
  recipeProblems,
  type Recipe,
  type RecipeBook,
  type RecipeLink,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { Readers } from '../reading/readers.js';
import { loadSnippetsByKey, saveSnippet } from '../storage/draft.js';
import { saveDefinitions } from '../storage/sites.js';
import { toSnapshot } from '../storage/read-draft.js';
import type { Site } from '../storage/rows.js';
import { fieldError } from '../texts/field-errors.js';
import { setParts } from './edit-draft.js';
import { findSnippet } from './find-snippet.js';
import { keyOrFromName } from './key-or-from-name.js';
import { keepRecipe } from './recipes.js';
import { audit } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface Making {
  readonly key?: string | undefined;
  readonly name?: string | undefined;
  readonly changes?: string | undefined;
  /** Only say what it would be. */
  readonly preview: boolean;
}

/**
 * Makes a recipe of a snippet, or the next version of the recipe that it follows; the snippet follows it from then on.
 *
 * @throws ServiceError 404, 409, 422
 */
export async function makeRecipe(
  store: Store,
  site: Site,
  snippetKey: string,
  making: Making,
  { book, readers, actor }: { readonly book: RecipeBook; readonly readers: Readers; readonly actor: string },
): Promise<Recipe> {
  const found = await findSnippet(store, site, snippetKey);
  const before = toSnapshot(site, [found, ...(await loadSnippetsByKey(store, site, found.snippet.needs))]);
  const snippet = before.snippets[0]!;
  const followed = followedBy(book, snippet, making.key);
  const name = making.name ?? followed?.name ?? snippet.name;
  const key = followed?.key ?? keyOrFromName(making.key, name);
  if (!followed && book.find(key))
    throw new ServiceError('recipe-key-taken', { key }, { errors: [fieldError('/key', 'key-taken', {})] });
  const as = { key, name, followed };
  const made = await readers.run('recipeFromSnippet', { snippet, snapshot: before, as });
  const { changes: _, ...rest } = made.recipe;
  const next: Recipe = making.changes === undefined ? rest : { ...rest, changes: making.changes };
  assertSound(next);
  if (followed && canonicalJson({ ...next, version: followed.version }) === canonicalJson(followed))
    throw new ServiceError('nothing-new', { name: snippet.name, version: followed.version });
  if (making.preview) return next;
  saveDefinitions(site, { fields: made.fields });
  const link = { key, version: next.version, fields: made.names };
  saveSnippet(found.snippet, { recipe: link }, actor);
  await setParts(store, site, found.snippet, found.parts, made.parts);
  await keepRecipe(store, next, actor);
  const said = (): string =>
    say(SITE_TEXTS.madeVersion, { version: next.version, recipe: name, snippet: snippet.name });
  audit(store, site, actor, 'recipe.make', said);
  await store.flush();
  return next;
}

/** The recipe of which a snippet makes the next version; undefined where it makes one of its own. @throws ServiceError 409 */
function followedBy(
  book: RecipeBook,
  { name, recipe: link }: { readonly name: string; readonly recipe?: RecipeLink },
  key: string | undefined,
): Recipe | undefined {
  const newest = link && (key === undefined || key === link.key) ? book.find(link.key) : undefined;
  if (newest && newest.version > link!.version)
    throw new ServiceError('behind-recipe', {
      ...{ name, version: link!.version },
      ...{ recipe: newest.name, newest: newest.version },
    });
  return newest;
}

/** @throws ServiceError 422 where what a snippet holds cannot be a recipe */
function assertSound(recipe: Recipe): void {
  const problems = recipeProblems(recipe);
  if (problems.length === 0) return;
  throw new ServiceError(
    'recipe-not-sound',
    { problem: problems[0]!.message },
    { errors: problems.map(({ path, message }) => ({ pointer: `/${path.join('/')}`, detail: message })) },
  );
}
