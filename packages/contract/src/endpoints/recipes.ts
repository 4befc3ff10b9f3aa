import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site, snippet } from './params.js';

const recipe = z.strictObject({ recipe: schemas.key });

/** Recipes and what was installed by them. */
export const recipesEndpoints = {
  listRecipes: {
    method: 'GET',
    path: '/recipes',
    summary: 'Recipes by name, and how many installs they have',
    needs: 'sign-in',
    query: schemas.pageQuery,
    response: schemas.recipeList,
  },
  importRecipe: {
    method: 'POST',
    path: '/recipes',
    summary: 'Add a recipe, or a newer version of one; versions never change',
    needs: { installation: 'edit' },
    makes: 'recipes',
    body: schemas.recipe,
    response: schemas.recipeImported,
    status: 201,
  },
  showRecipe: {
    method: 'GET',
    path: '/recipes/{recipe}',
    summary: 'One recipe, its versions and its installs',
    needs: 'sign-in',
    params: recipe,
    response: schemas.recipeResource,
  },
  exportRecipe: {
    method: 'GET',
    path: '/recipes/{recipe}/versions/{version}',
    summary: 'One version of a recipe, as a file of the open format',
    needs: 'sign-in',
    params: recipe.extend({ version: z.coerce.number().int() }),
    response: schemas.recipe,
  },
  applyRecipe: {
    method: 'POST',
    path: '/recipes/{recipe}/apply',
    summary: 'Install what a recipe describes in the drafts of sites; each by itself, with a result each',
    needs: { eachSite: 'edit' },
    makes: 'snippets',
    params: recipe,
    body: schemas.recipeApplication,
    response: schemas.siteResults,
  },
  makeRecipe: {
    method: 'POST',
    path: '/sites/{site}/snippets/{snippet}/recipe',
    summary: 'Make a recipe of a snippet, or the next version of the recipe that it follows',
    needs: { site: 'edit', installation: 'edit' },
    makes: 'recipes',
    params: snippet,
    body: schemas.recipeMaking,
    response: schemas.recipe,
  },
  followRecipe: {
    method: 'POST',
    path: '/sites/{site}/snippets/{snippet}/follow',
    summary: 'Let a snippet that was pasted by hand follow a recipe; what visitors get stays the same',
    needs: { site: 'edit' },
    params: snippet,
    body: z.strictObject({
      recipe: schemas.key.optional().meta({ description: 'The one that its code tells when left out.' }),
    }),
    response: schemas.snippet,
  },
  listRecipeUpdates: {
    method: 'GET',
    path: '/recipe-updates',
    summary: 'Snippets of all drafts that follow an older version of their recipe, with what would change',
    needs: { eachSite: 'view' },
    query: z.strictObject({ site: schemas.key.optional(), recipe: schemas.key.optional() }),
    response: items(schemas.recipeUpdate),
  },
  updateFromRecipes: {
    method: 'POST',
    path: '/recipe-updates',
    summary: 'Bring snippets up to the newest version of their recipes, as changes of the drafts',
    needs: { eachSite: 'edit' },
    body: schemas.recipeUpdateInput,
    response: schemas.recipeUpdateResults,
  },
  showRecipeSchema: {
    method: 'GET',
    path: '/schemas/recipe',
    summary: 'The JSON Schema of a recipe file',
    needs: 'sign-in',
    response: z.record(z.string(), z.unknown()),
  },
  showChecklist: {
    method: 'GET',
    path: '/sites/{site}/checklist',
    summary: 'What has to be done at the providers of a site’s snippets, and who did it when',
    needs: { site: 'view' },
    params: site,
    response: items(schemas.checklistItem),
  },
  tickStep: {
    method: 'PUT',
    path: '/sites/{site}/checklist',
    summary: 'Tick a step off, or take the tick back',
    needs: { site: 'edit' },
    params: site,
    body: schemas.tickInput,
    response: items(schemas.checklistItem),
  },
} as const satisfies Record<string, Endpoint>;
