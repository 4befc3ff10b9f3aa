import { recipeJsonSchema } from '@pragmatica/contract';
import { sitesWith, type Access, type Recipe } from '@pragmatica/core';
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
    async listRecipes({ query: { q, after, limit } }, { store, access }) {
      const { book } = await checks.recipeCache.read(store);
      return { data: await listRecipes(store, book, { searched: q, after, limit, seen: seenBy(access) }) };
    },

    async importRecipe({ body }, { store, actor, access }) {
      const recipe = body as Recipe;
      const before = await checks.recipeCache.read(store);
      const isNew = await importRecipe(store, before.book, recipe, actor);
      const { book } = await checks.recipeCache.read(store);
      return {
        data: { ...(await describeRecipe(store, book, recipe.key, seenBy(access))), isNew },
        location: `/api/v1/recipes/${recipe.key}`,
      };
    },

    async showRecipe({ params }, { store, access }) {
      const { book } = await checks.recipeCache.read(store);
      return { data: await describeRecipe(store, book, params.recipe, seenBy(access)) };
    },

    async exportRecipe({ params }, { store }) {
      const { book } = await checks.recipeCache.read(store);
      return { data: findVersion(book, params.recipe, params.version) };
    },

    async applyRecipe({ params, body }, { store, actor, access }) {
      const { book } = await checks.recipeCache.read(store);
      const recipe = findRecipe(book, params.recipe);
      const name = body.name ?? recipe.name;
      const application = {
        ...{ key: keyOrFromName(body.key, name), name, state: body.state },
        isNamed: body.name !== undefined || body.key !== undefined,
      };
      const items = await applyToSites(store, recipe, body.targets, application, { checks, actor, access });
      return { data: { items } };
    },

    async makeRecipe({ params, body }, { store, actor }) {
      const { book } = await checks.recipeCache.read(store);
      const recipe = await withSiteLock(store, params.site, (transaction, site) =>
        makeRecipe(transaction, site, params.snippet, body, { book, readers: checks.readers, actor }),
      );
      return { data: recipe };
    },

    async followRecipe({ params, body }, { store, actor }) {
      const found = await withSiteLock(store, params.site, (transaction, site) =>
        followRecipe(transaction, site, params.snippet, body.recipe, { checks, actor }),
      );
      return { data: snippetResource(found) };
    },

    async listRecipeUpdates({ query }, { store, access }) {
      const { book } = await checks.recipeCache.read(store);
      return { data: { items: await recipeUpdates(store, book, { ...query, seen: seenBy(access) }) } };
    },

    async updateFromRecipes({ body }, context) {
      const { store, actor, access } = context;
      const { book } = await checks.recipeCache.read(store);
      const { replaceEdits } = body;
      const meant = body.snippets ?? (await recipeUpdates(store, book, { seen: sitesWith(access, 'edit') }));
      const items = [];
      for (const { site, snippet } of meant) {
        const result = await changeOneOf(context, site, (transaction, found) =>
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

function seenBy(access: Access) {
  return sitesWith(access, 'view');
}
