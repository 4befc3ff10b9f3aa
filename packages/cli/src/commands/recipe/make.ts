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
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

interface MakeOptions extends SiteOptions {
  readonly name?: string;
  readonly key?: string;
  readonly changes?: string;
  readonly preview?: boolean;
}

export function make(group: Command): void {
  withSite(group.command('make <snippet>'))
    .description(RECIPE.makeRecipeSnippet)
    .option('--name <name>', RECIPE.whatRecipeCalled)
    .option('--key <key>', RECIPE.namesCommandsMade)
    .option('--changes <sentence>', RECIPE.whatNewNext)
    .option('--preview', RECIPE.onlyShowRecipe)
    .addHelpText('after', RECIPE.accountsCodeBecome)
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
      print(say(RECIPE.madeVersionVersion, { version: data.version, key: colour.bold(data.key) }));
      if (data.fields.length > 0)
        print(say(RECIPE.asksFields, { fields: data.fields.map(({ label }) => label).join(', ') }));
      note(
        data.version === 1 ? say(RECIPE.applyPragmaticaRecipe, { key: data.key }) : RECIPE.seeWhichInstalls,
      );
    });
}

export function follow(group: Command): void {
  withSite(group.command('follow <snippet>'))
    .description(RECIPE.letSnippetWas)
    .option('--recipe <recipe>', RECIPE.oneOneCode)
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
      else print(say(RECIPE.followsNow, { key, recipe: data.recipe!.key, version: data.recipe!.version }));
    });
}

export function leave(group: Command): void {
  withSite(group.command('leave <snippet>'))
    .description(RECIPE.letSnippetGo)
    .action(async (key: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      if (old.recipe === null) throw new CliError(say(RECIPE.keyFollowsNo, { key }));
      const { data } = await client.call('editSnippet', { params, ifMatch: etag, body: { recipe: null } });
      if (options.json) printJson(data);
      else print(say(RECIPE.followsNoLonger, { key, recipe: old.recipe.key }));
    });
}

interface RetireOptions extends CommonOptions {
  readonly reason?: string;
  readonly replacedBy?: string;
  readonly undo?: boolean;
}

export function retire(group: Command): void {
  withCommon(group.command('retire <recipe>'))
    .description(RECIPE.sayRecipeGiven)
    .option('--reason <sentence>', 'why')
    .option('--replaced-by <recipe>', RECIPE.whatTakeInstead)
    .option('--undo', RECIPE.takeBack)
    .addHelpText('after', RECIPE.examplePragmaticaRecipe)
    .action(async (key: string, options: RetireOptions) => {
      const { reason, replacedBy, undo } = options;
      if ((reason === undefined) === (undo !== true)) throw new CliError(RECIPE.sayWhyReason);
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
          say(undo ? RECIPE.retiredNoLonger : RECIPE.retiredFrom, {
            name: recipe.name,
            version: next.version,
            installs: data.uses.length,
          }),
        );
    });
}
