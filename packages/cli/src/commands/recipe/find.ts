import { listAllRecipes, ApiError, nearest, type ApiClient, type RecipeResource } from '@pragmatica/contract';
import { CliError, EXIT } from '../../errors.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

/** A recipe by its key; suggests a near one when there is none. @throws CliError */
export async function findRecipe(client: ApiClient, key: string): Promise<RecipeResource> {
  try {
    return (await client.call('showRecipe', { params: { recipe: key } })).data;
  } catch (error) {
    // An address that is none is no recipe either.
    if (!(error instanceof ApiError) || error.status !== 404) throw error;
  }
  const keys = (await listAllRecipes(client)).map(({ recipe }) => recipe.key);
  const near = nearest(key, keys);
  const hint =
    near === undefined
      ? say(RECIPE.knownAre, { known: keys.join(', ') || RECIPE.noneYet })
      : say(RECIPE.didYouMean, { near });
  throw new CliError(say(RECIPE.thereNoRecipe, { key, hint }), EXIT.notFound);
}
