import { nearest, type ApiClient, type RecipeResource } from '@pragmatica/contract';
import { CliError, EXIT } from '../../errors.js';

/** A recipe by its key; suggests a near one when there is none. @throws CliError */
export async function findRecipe(client: ApiClient, key: string): Promise<RecipeResource> {
  const { items } = (await client.call('listRecipes', {})).data;
  const found = items.find(({ recipe }) => recipe.key === key);
  if (found) return found;
  const keys = items.map(({ recipe }) => recipe.key);
  const near = nearest(key, keys);
  const hint =
    near === undefined ? `Known are: ${keys.join(', ') || 'none yet'}.` : `Did you mean "${near}"?`;
  throw new CliError(`There is no recipe "${key}". ${hint}`, EXIT.notFound);
}
