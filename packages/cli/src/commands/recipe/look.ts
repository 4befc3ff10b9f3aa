import { listAllRecipes, type RecipeResource, type RecipeSummary } from '@pragmatica/contract';
import { placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { colour, count, print, printJson, table, when } from '../../output.js';
import { findRecipe } from './find.js';

export function list(group: Command): void {
  withCommon(group.command('list'))
    .description('all recipes, how many installs they have and which are behind')
    .option('--find <words>', 'only those with these words in name, provider or summary')
    .action(async (options: CommonOptions & { find?: string }) => {
      const items = await listAllRecipes(clientFor(options), options.find);
      if (options.json) printJson(items);
      else if (items.length === 0 && options.find !== undefined)
        print(`No recipe has “${options.find}” in it.`);
      else if (items.length === 0)
        print('No recipes yet. Make one of a snippet: pragmatica recipe make SNIPPET');
      else
        print(
          table(
            ['RECIPE', 'VERSION', 'INSTALLS', 'NAME', ''],
            items.map(({ recipe, ...counts }) => [
              colour.bold(recipe.key),
              String(recipe.version),
              installWords(counts),
              recipe.name,
              recipe.retired ? colour.yellow('retired') : recipe.summary,
            ]),
          ),
        );
    });
}

function installWords({ installs, behind }: Omit<RecipeSummary, 'recipe'>): string {
  if (installs === 0) return colour.dim('none');
  return `${installs}${behind > 0 ? colour.yellow(` (${behind} behind)`) : ''}`;
}

export function show(group: Command): void {
  withCommon(group.command('show <recipe>'))
    .description('what a recipe installs and asks for, its versions and its installs')
    .action(async (key: string, options: CommonOptions) => {
      const found = await findRecipe(clientFor(options), key);
      if (options.json) printJson(found);
      else tell(found);
    });
}

function tell({ recipe, versions, uses }: RecipeResource): void {
  print(
    `${colour.bold(recipe.name)}  version ${recipe.version}  ${colour.dim(recipe.provider)}\n${recipe.summary}`,
  );
  if (recipe.retired) {
    const next = recipe.retired.replacedBy;
    print(
      colour.yellow(
        `Retired: ${recipe.retired.reason}${next === undefined ? '' : ` Take "${next}" instead.`}`,
      ),
    );
  }
  title('Puts');
  for (const { key, placement, required, code } of recipe.parts) {
    print(
      `  ${colour.cyan(placementWords(placement))}  ${key}${required ? '' : colour.dim(' (may be left out)')}`,
    );
    print(code.replace(/^/gm, '    '));
  }
  if (recipe.fields.length > 0) title('Asks for');
  for (const { name, type, label, help, example, default: usual } of recipe.fields)
    print(
      `  ${colour.bold(name)}  ${label} (${type})${usual === undefined ? '' : `, mostly ${usual}`}${example === undefined ? '' : `, for example ${example}`}${help === undefined ? '' : `\n    ${colour.dim(help)}`}`,
    );
  if (recipe.after.length > 0) {
    title('Must come after');
    print(`  ${recipe.after.join(', ')}`);
  }
  if (recipe.steps.length > 0) title('To be done at the provider');
  for (const { title: what, per, environment } of recipe.steps)
    print(
      `  ${what}${per === 'host' ? colour.dim(` (each ${environment === undefined ? '' : `${environment} `}host)`) : ''}`,
    );
  title('Versions');
  for (const { version, by, at, changes } of versions)
    print(`  ${version}  ${when(at)}  ${by}${changes.map((change) => `\n       ${change}`).join('')}`);
  title(uses.length === 0 ? 'No installs yet' : count(uses.length, 'install'));
  for (const { site, snippet, version, isBehind } of uses)
    print(
      `  ${site}/${snippet}  ${version === null ? 'pasted by hand' : `version ${version}`}${isBehind ? colour.yellow('  behind') : ''}`,
    );
}

function title(text: string): void {
  print(`\n${colour.bold(text)}`);
}
