import { listAllRecipes } from '@pragmatica/contract';
import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api } from './client';

/** So many recipes come at once. */
const LIMIT = 50;

/** Recipes by name, page by page. Whatever changes a site may change how many installs they have. */
export const recipeListQuery = (q: string) =>
  infiniteQueryOptions({
    queryKey: ['recipes', 'list', q],
    queryFn: async ({ pageParam }) =>
      (await api.call('listRecipes', { query: { q, after: pageParam, limit: LIMIT } })).data,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ next }) => next ?? undefined,
  });

/** All recipes, to recognise code by and to choose from. */
export const allRecipesQuery = queryOptions({
  queryKey: ['recipes', 'all'],
  queryFn: async () => (await listAllRecipes(api)).map(({ recipe }) => recipe),
});

/** A recipe with its versions and installs. */
export const recipeQuery = (recipe: string) =>
  queryOptions({
    queryKey: ['recipes', 'one', recipe],
    queryFn: async () => (await api.call('showRecipe', { params: { recipe } })).data,
    retry: false,
  });

/** Snippets that follow an older version of their recipe, on all sites. */
export const recipeUpdatesQuery = queryOptions({
  queryKey: ['recipes', 'updates'],
  queryFn: async () => (await api.call('listRecipeUpdates', { query: {} })).data.items,
});
