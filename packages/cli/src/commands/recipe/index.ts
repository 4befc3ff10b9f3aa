import type { Command } from 'commander';
import { apply } from './apply.js';
import { exportRecipe, importRecipes, schema } from './files.js';
import { list, show } from './look.js';
import { follow, leave, make, retire } from './make.js';
import { behind, update } from './updates.js';
import { RECIPE } from '../../texts/recipe.js';

export function recipe(program: Command): void {
  const group = program.command('recipe').description(RECIPE.howInstallOne);
  for (const register of [
    list,
    show,
    apply,
    make,
    follow,
    leave,
    behind,
    update,
    importRecipes,
    exportRecipe,
    retire,
    schema,
  ])
    register(group);
}
