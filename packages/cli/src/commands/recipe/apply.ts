import type { RecipeResource } from '@pragmatica/contract';
import { fieldValueProblem } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, sitesFor, withSites, type SitesOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, note } from '../../output.js';
import { tellResults } from '../../results.js';
import { findRecipe } from './find.js';
import { readGiven, valuesFor, type Given } from './given.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

interface Options extends SitesOptions {
  readonly name?: string;
  readonly key?: string;
  readonly off?: boolean;
  readonly yes?: boolean;
}

export function apply(group: Command): void {
  withSites(group.command('apply <recipe> [values...]'))
    .description(RECIPE.installWhatRecipe)
    .option('--name <name>', RECIPE.whatSnippetCalled)
    .option('--key <key>', RECIPE.namesCommandsMade)
    .option('--off', RECIPE.addSwitchedOff)
    .option('-y, --yes', RECIPE.askNothingWhat)
    .addHelpText('after', RECIPE.valuesWrittenSite)
    .action(async (key: string, typed: string[], options: Options) => {
      const client = clientFor(options);
      const given = typed.map(readGiven);
      const found = await findRecipe(client, key);
      const sites = await sitesFor(client, options);
      const stray = given.find(({ site }) => site !== undefined && !sites.includes(site));
      if (stray) throw new CliError(say(RECIPE.valueSiteSite, { site: stray.site! }));
      const mayAsk = process.stdin.isTTY && !options.yes && !options.json;
      const all = mayAsk ? [...given, ...(await ask(found, sites, given))] : given;
      const { data } = await client.call('applyRecipe', {
        params: { recipe: key },
        body: {
          ...(options.name === undefined ? {} : { name: options.name }),
          ...(options.key === undefined ? {} : { key: options.key }),
          state: options.off ? 'off' : 'on',
          targets: sites.map((site) => ({ site, values: valuesFor(site, all) })),
        },
      });
      tellResults(data.items, options);
      if (!options.json && data.items.some(({ isDone }) => isDone)) note(RECIPE.visitorsDoNot);
    });
}

/** Asks for what is not given, site by site. */
async function ask(
  { recipe }: RecipeResource,
  sites: readonly string[],
  given: readonly Given[],
): Promise<Given[]> {
  const { input } = await import('@inquirer/prompts');
  const answers: Given[] = [];
  for (const site of sites)
    for (const { name, label, help, type, default: usual } of recipe.fields) {
      if (valuesFor(site, given).some((value) => value.name === name)) continue;
      const value = await input({
        message: `${sites.length > 1 ? `${site}: ` : ''}${label}${help === undefined ? '' : colour.dim(` (${help})`)}`,
        ...(usual === undefined ? {} : { default: usual }),
        validate: (text) => (text === '' ? true : (fieldValueProblem(type, text) ?? true)),
      });
      if (value !== '') answers.push({ site, value: { name, value } });
    }
  return answers;
}
