import type { Command } from 'commander';
import { apply } from './apply.js';
import { exportRecipe, importRecipes, schema } from './files.js';
import { list, show } from './look.js';
import { follow, leave, make, retire } from './make.js';
import { behind, update } from './updates.js';

export function recipe(program: Command): void {
  const group = program
    .command('recipe')
    .description('how to install one thing, told once and applied to any number of sites');
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
