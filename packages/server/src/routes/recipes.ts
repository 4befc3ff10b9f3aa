import { recipeJsonSchema } from '@pragmatica/contract';
import type { Recipe } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { applyToSites } from '../site/apply-recipe.js';
import { changeOneOf } from '../site/each-site.js';
import { followRecipe } from '../site/follow-recipe.js';
import { keyOrFromName } from '../site/key-or-from-name.js';
import { makeRecipe } from '../site/make-recipe.js';
import { recipeUpdates, updateFromRecipe } from '../site/recipe-updates.js';
import { describeRecipe, findRecipe, findVersion, importRecipe, listRecipes } from '../site/recipes.js';
import type { SiteChecks } from '../site/site-checks.js';
import { withSiteLock } from '../site/site-lock.js';
import { snippetResource } from '../site/snippet-resource.js';

export function recipeHandlers(
  checks: SiteChecks,
): HandlersOf<
  | 'listRecipes'
  | 'importRecipe'
  | 'showRecipe'
  | 'exportRecipe'
  | 'applyRecipe'
  | 'makeRecipe'
  | 'followRecipe'
  | 'listRecipeUpdates'
  | 'updateFromRecipes'
  | 'showRecipeSchema'
> {
  return {
    async listRecipes({ query: { q, after, limit } }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      return { data: await listRecipes(em, book, { searched: q, after, limit }) };
    },

    async importRecipe({ body }, { em, actor }) {
      const recipe = body as Recipe;
      const before = await checks.recipeCache.read(em);
      const isNew = await importRecipe(em, before.book, recipe, actor);
      const { book } = await checks.recipeCache.read(em);
      return {
        data: { ...(await describeRecipe(em, book, recipe.key)), isNew },
        location: `/api/v1/recipes/${recipe.key}`,
      };
    },

    async showRecipe({ params }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      return { data: await describeRecipe(em, book, params.recipe) };
    },

    async exportRecipe({ params }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      return { data: findVersion(book, params.recipe, params.version) };
    },

    async applyRecipe({ params, body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const recipe = findRecipe(book, params.recipe);
      const name = body.name ?? recipe.name;
      const application = {
        ...{ key: keyOrFromName(body.key, name), name, state: body.state },
        isNamed: body.name !== undefined || body.key !== undefined,
      };
      const items = await applyToSites(em, recipe, body.targets, application, { checks, actor });
      return { data: { items } };
    },

    async makeRecipe({ params, body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const recipe = await withSiteLock(em, params.site, (transaction, site) =>
        makeRecipe(transaction, site, params.snippet, body, { book, readers: checks.readers, actor }),
      );
      return { data: recipe };
    },

    async followRecipe({ params, body }, { em, actor }) {
      const found = await withSiteLock(em, params.site, (transaction, site) =>
        followRecipe(transaction, site, params.snippet, body.recipe, { checks, actor }),
      );
      return { data: snippetResource(found) };
    },

    async listRecipeUpdates({ query }, { em }) {
      const { book } = await checks.recipeCache.read(em);
      return { data: { items: await recipeUpdates(em, book, query) } };
    },

    async updateFromRecipes({ body }, { em, actor }) {
      const { book } = await checks.recipeCache.read(em);
      const { replaceEdits } = body;
      const meant = body.snippets ?? (await recipeUpdates(em, book, {}));
      const items = [];
      for (const { site, snippet } of meant) {
        const result = await changeOneOf(em, site, (transaction, found) =>
          updateFromRecipe(transaction, found, snippet, { book, replaceEdits, actor }),
        );
        items.push({ ...result, snippet });
      }
      return { data: { items } };
    },

    showRecipeSchema() {
      return Promise.resolve({ data: recipeJsonSchema() });
    },
  };
}
