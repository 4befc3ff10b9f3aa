import { listAllRecipes, type RecipeResource, type RecipeSummary } from '@pragmatica/contract';
import { placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { colour, print, printJson, table, when } from '../../output.js';
import { findRecipe } from './find.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

export function list(group: Command): void {
  withCommon(group.command('list'))
    .description(RECIPE.allRecipesHow)
    .option('--find <words>', RECIPE.onlyThoseThese)
    .action(async (options: CommonOptions & { find?: string }) => {
      const items = await listAllRecipes(clientFor(options), options.find);
      if (options.json) printJson(items);
      else if (items.length === 0 && options.find !== undefined)
        print(say(RECIPE.noRecipeHas, { find: options.find }));
      else if (items.length === 0) print(RECIPE.noRecipesYet);
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
    .description(RECIPE.whatRecipeInstalls)
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
        next === undefined
          ? say(RECIPE.retiredBecause, { reason: recipe.retired.reason })
          : say(RECIPE.retiredReplaced, { reason: recipe.retired.reason, next }),
      ),
    );
  }
  title(RECIPE.puts);
  for (const { key, placement, required, code } of recipe.parts) {
    print(
      `  ${colour.cyan(placementWords(placement))}  ${key}${required ? '' : colour.dim(RECIPE.mayLeftOut)}`,
    );
    print(code.replace(/^/gm, '    '));
  }
  if (recipe.fields.length > 0) title(RECIPE.asks);
  for (const { name, type, label, help, example, default: usual } of recipe.fields)
    print(
      `  ${colour.bold(name)}  ${label} (${type})${usual === undefined ? '' : `, mostly ${usual}`}${example === undefined ? '' : say(RECIPE.exampleExample, { example })}${help === undefined ? '' : `\n    ${colour.dim(help)}`}`,
    );
  if (recipe.after.length > 0) {
    title(RECIPE.mustComeAfter);
    print(`  ${recipe.after.join(', ')}`);
  }
  if (recipe.steps.length > 0) title(RECIPE.doneProvider);
  for (const { title: what, per, environment } of recipe.steps)
    print(
      `  ${what}${per === 'host' ? colour.dim(` (each ${environment === undefined ? '' : `${environment} `}host)`) : ''}`,
    );
  title(RECIPE.versions);
  for (const { version, by, at, changes } of versions)
    print(`  ${version}  ${when(at)}  ${by}${changes.map((change) => `\n       ${change}`).join('')}`);
  title(uses.length === 0 ? RECIPE.noInstallsYet : say(RECIPE.install, { count: uses.length }));
  for (const { site, snippet, version, isBehind } of uses)
    print(
      `  ${site}/${snippet}  ${version === null ? RECIPE.pastedHand : `version ${version}`}${isBehind ? colour.yellow('  behind') : ''}`,
    );
}

function title(text: string): void {
  print(`\n${colour.bold(text)}`);
}
