import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RecipeInput } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT, describeError } from '../../errors.js';
import { colour, note, print, printJson } from '../../output.js';
import { findRecipe } from './find.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

export function importRecipes(group: Command): void {
  withCommon(group.command('import <files...>'))
    .description(RECIPE.addRecipesFrom)
    .addHelpText('after', RECIPE.formatJsonPragmatica)
    .action(async (files: string[], options: CommonOptions) => {
      const client = clientFor(options);
      const results = [];
      for (const file of files) {
        try {
          const body = readJson(file) as RecipeInput;
          const { data } = await client.call('importRecipe', { body });
          const { key, version } = data.recipe;
          const own = body.version;
          results.push({ file, isDone: true, key, version: own, isNew: data.isNew });
          if (!options.json)
            print(
              data.isNew
                ? say(own < version ? RECIPE.addedOlderVersion : RECIPE.addedVersion, {
                    version: own,
                    key: colour.bold(key),
                    newest: version,
                  })
                : say(RECIPE.keyHasVersion, { key: colour.bold(key), own }),
            );
        } catch (error) {
          const { line, exitCode } = describeError(error);
          results.push({ file, isDone: false, message: line });
          note(colour.red(`${file}: ${line}`));
          process.exitCode = exitCode;
        }
      }
      if (options.json) printJson(results);
    });
}

function readJson(file: string): unknown {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CliError(say(RECIPE.fileFileCannot, { file }), EXIT.notFound);
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new CliError(
      say(RECIPE.notJson, { message: error instanceof Error ? error.message : String(error) }),
    );
  }
}

interface ExportOptions extends CommonOptions {
  readonly version?: string;
  readonly out?: string;
}

export function exportRecipe(group: Command): void {
  withCommon(group.command('export <recipes...>'))
    .description(RECIPE.recipesFilesOne)
    .option('--version <number>', RECIPE.versionNewestWhen)
    .option('--out <folder>', RECIPE.writeEachFile)
    .action(async (keys: string[], options: ExportOptions) => {
      if (keys.length > 1 && options.out === undefined) throw new CliError(RECIPE.sayWhereWrite);
      const client = clientFor(options);
      for (const key of keys) {
        const { recipe: newest } = await findRecipe(client, key);
        const version = options.version === undefined ? newest.version : Number(options.version);
        if (!Number.isInteger(version)) throw new CliError(RECIPE.versionNumberLike);
        const { data } = await client.call('exportRecipe', { params: { recipe: key, version } });
        if (options.out === undefined) printJson(data);
        else {
          mkdirSync(options.out, { recursive: true });
          const file = join(options.out, `${key}${version === 1 ? '' : `.${version}`}.json`);
          writeFileSync(file, `${JSON.stringify(data, null, 2)}\n`);
          note(say(RECIPE.wroteFile, { file }));
        }
      }
    });
}

export function schema(group: Command): void {
  withCommon(group.command('schema'))
    .description(RECIPE.jsonSchemaRecipe)
    .action(async (options: CommonOptions) => {
      printJson((await clientFor(options).call('showRecipeSchema', {})).data);
    });
}
