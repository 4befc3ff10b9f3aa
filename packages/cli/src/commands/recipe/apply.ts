import type { RecipeResource } from '@pragmatica/contract';
import { fieldValueProblem } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, sitesFor, withSites, type SitesOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, note } from '../../output.js';
import { tellResults } from '../../results.js';
import { findRecipe } from './find.js';
import { readGiven, valuesFor, type Given } from './given.js';

interface Options extends SitesOptions {
  readonly name?: string;
  readonly key?: string;
  readonly off?: boolean;
  readonly yes?: boolean;
}

export function apply(group: Command): void {
  withSites(group.command('apply <recipe> [values...]'))
    .description('install what a recipe describes, in the drafts of one site or of several')
    .option('--name <name>', 'what the snippet is called; as the recipe when left out')
    .option('--key <key>', 'names it in commands; made from the name when left out')
    .option('--off', 'add it switched off')
    .option('-y, --yes', 'ask nothing; what is not given stays at the recipe’s default or its example')
    .addHelpText(
      'after',
      '\nValues are written [SITE/]NAME[@ENVIRONMENT]=VALUE; what is not given is asked for.\n\nExamples:\n  pragmatica recipe apply tallymast-counter counter_account=TM-1887\n  pragmatica recipe apply crateline-container container=CR-20-3 container@staging=CR-20-9\n  pragmatica recipe apply tallymast-counter --all-sites port-hallow/counter_account=TM-1902 tern-hostel/counter_account=TM-1903',
    )
    .action(async (key: string, typed: string[], options: Options) => {
      const client = clientFor(options);
      const given = typed.map(readGiven);
      const found = await findRecipe(client, key);
      const sites = await sitesFor(client, options);
      const stray = given.find(({ site }) => site !== undefined && !sites.includes(site));
      if (stray)
        throw new CliError(`A value is for the site "${stray.site!}", which is not among those named.`);
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
      if (!options.json && data.items.some(({ isDone }) => isDone))
        note('Visitors do not get it yet. See "pragmatica checklist", then "pragmatica publish -m MESSAGE".');
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
