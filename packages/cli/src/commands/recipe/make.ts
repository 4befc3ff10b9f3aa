import type { RecipeInput } from '@pragmatica/contract';
import type { Command } from 'commander';
import {
  assertSnippet,
  clientFor,
  siteFor,
  withCommon,
  withSite,
  type CommonOptions,
  type SiteOptions,
} from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, note, print, printJson } from '../../output.js';
import { findRecipe } from './find.js';

interface MakeOptions extends SiteOptions {
  readonly name?: string;
  readonly key?: string;
  readonly changes?: string;
  readonly preview?: boolean;
}

export function make(group: Command): void {
  withSite(group.command('make <snippet>'))
    .description('make a recipe of a snippet, or the next version of the recipe that it follows')
    .option('--name <name>', 'what the recipe is called; as the snippet when left out')
    .option('--key <key>', 'names it in commands; made from the name when left out')
    .option('--changes <sentence>', 'what is new, for a next version')
    .option('--preview', 'only show the recipe')
    .addHelpText(
      'after',
      '\nAccounts in the code become fields. The snippet follows the recipe from then on.\n\nExamples:\n  pragmatica recipe make harbour-chat --name "Parlanook chat"\n  pragmatica recipe make harbour-chat --changes "The chat loads after the page."',
    )
    .action(async (key: string, options: MakeOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const { data } = await client.call('makeRecipe', {
        params: { site, snippet: key },
        body: {
          ...(options.name === undefined ? {} : { name: options.name }),
          ...(options.key === undefined ? {} : { key: options.key }),
          ...(options.changes === undefined ? {} : { changes: options.changes }),
          preview: options.preview === true,
        },
      });
      if (options.json || options.preview) {
        printJson(data);
        return;
      }
      print(`Made version ${data.version} of the recipe ${colour.bold(data.key)}.`);
      if (data.fields.length > 0) print(`It asks for: ${data.fields.map(({ label }) => label).join(', ')}.`);
      note(
        data.version === 1
          ? `Apply it with: pragmatica recipe apply ${data.key} --site OTHER-SITE`
          : 'See which installs are behind: pragmatica recipe behind',
      );
    });
}

export function follow(group: Command): void {
  withSite(group.command('follow <snippet>'))
    .description('let a snippet that was pasted by hand follow a recipe; what visitors get stays the same')
    .option('--recipe <key>', 'this one; the one that its code tells when left out')
    .action(async (key: string, options: SiteOptions & { recipe?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      if (options.recipe !== undefined) await findRecipe(client, options.recipe);
      const { data } = await client.call('followRecipe', {
        params: { site, snippet: key },
        body: options.recipe === undefined ? {} : { recipe: options.recipe },
      });
      if (options.json) printJson(data);
      else
        print(
          `"${key}" follows the recipe ${data.recipe!.key}, version ${data.recipe!.version}. Its values are fields of the site now; visitors get what they got.`,
        );
    });
}

export function leave(group: Command): void {
  withSite(group.command('leave <snippet>'))
    .description(
      'let a snippet go its own way: its code stays, newer versions of its recipe do not concern it',
    )
    .action(async (key: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      if (old.recipe === null) throw new CliError(`"${key}" follows no recipe.`);
      const { data } = await client.call('editSnippet', { params, ifMatch: etag, body: { recipe: null } });
      if (options.json) printJson(data);
      else print(`"${key}" no longer follows the recipe ${old.recipe.key}. Its code is as it was.`);
    });
}

interface RetireOptions extends CommonOptions {
  readonly reason?: string;
  readonly replacedBy?: string;
  readonly undo?: boolean;
}

export function retire(group: Command): void {
  withCommon(group.command('retire <recipe>'))
    .description('say that a recipe is given up; a new version says so, and its installs become findings')
    .option('--reason <sentence>', 'why')
    .option('--replaced-by <recipe>', 'what to take instead')
    .option('--undo', 'take that back')
    .addHelpText(
      'after',
      '\nExample:\n  pragmatica recipe retire tallymast-image --reason "Tallymast takes no visits from the image any more." --replaced-by tallymast-counter',
    )
    .action(async (key: string, options: RetireOptions) => {
      const { reason, replacedBy, undo } = options;
      if ((reason === undefined) === (undo !== true))
        throw new CliError('Say why with --reason, or take it back with --undo.');
      const client = clientFor(options);
      const { recipe } = await findRecipe(client, key);
      if (replacedBy !== undefined) await findRecipe(client, replacedBy);
      const { retired: _, changes: __, ...rest } = recipe;
      const next: RecipeInput = {
        ...rest,
        version: recipe.version + 1,
        ...(reason === undefined
          ? {}
          : { retired: { reason, ...(replacedBy === undefined ? {} : { replacedBy }) } }),
      };
      const { data } = await client.call('importRecipe', { body: next });
      if (options.json) printJson(data.recipe);
      else
        print(
          `${recipe.name} is ${undo ? 'no longer retired' : 'retired'} from version ${next.version} on; ${data.uses.length === 0 ? 'it has no installs' : 'its installs stay as they are'}.`,
        );
    });
}
