import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RecipeInput } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { CliError, EXIT, describeError } from '../../errors.js';
import { colour, note, print, printJson } from '../../output.js';
import { findRecipe } from './find.js';

export function importRecipes(group: Command): void {
  withCommon(group.command('import <files...>'))
    .description('add recipes from files, or newer versions of them')
    .addHelpText('after', '\nThe format is JSON; "pragmatica recipe schema" prints its JSON Schema.')
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
                ? `Added version ${own} of ${colour.bold(key)}${own < version ? ` (the newest is ${version})` : ''}.`
                : `${colour.bold(key)} has this version ${own} already.`,
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
    throw new CliError(`The file ${file} cannot be read.`, EXIT.notFound);
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new CliError(`This is no JSON: ${error instanceof Error ? error.message : String(error)}.`);
  }
}

interface ExportOptions extends CommonOptions {
  readonly version?: string;
  readonly out?: string;
}

export function exportRecipe(group: Command): void {
  withCommon(group.command('export <recipes...>'))
    .description('recipes as files: one on standard output, or each into a folder')
    .option('--version <number>', 'this version; the newest when left out')
    .option('--out <folder>', 'write each to a file there')
    .action(async (keys: string[], options: ExportOptions) => {
      if (keys.length > 1 && options.out === undefined)
        throw new CliError('Say where to write several: --out FOLDER.');
      const client = clientFor(options);
      for (const key of keys) {
        const { recipe: newest } = await findRecipe(client, key);
        const version = options.version === undefined ? newest.version : Number(options.version);
        if (!Number.isInteger(version)) throw new CliError('A version is a number, like 2.');
        const { data } = await client.call('exportRecipe', { params: { recipe: key, version } });
        if (options.out === undefined) printJson(data);
        else {
          mkdirSync(options.out, { recursive: true });
          const file = join(options.out, `${key}${version === 1 ? '' : `.${version}`}.json`);
          writeFileSync(file, `${JSON.stringify(data, null, 2)}\n`);
          note(`Wrote ${file}.`);
        }
      }
    });
}

export function schema(group: Command): void {
  withCommon(group.command('schema'))
    .description('the JSON Schema of a recipe file')
    .action(async (options: CommonOptions) => {
      printJson((await clientFor(options).call('showRecipeSchema', {})).data);
    });
}
