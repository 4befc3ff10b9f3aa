import { RecipeBook, factWords, placementWords, readCode as readFacts, suggestParts } from '@pragmatica/core';
import type { Command } from 'commander';
import { readCode } from '../code-input.js';
import { readRecipe } from '../known-site.js';
import { colour, print, printJson } from '../output.js';
import { FINDINGS } from '../texts/findings.js';
import { say } from '../texts/say.js';

export function read(program: Command): void {
  program
    .command('read <file>')
    .description(FINDINGS.whatPieceCode)
    .option('--said <sentence>', FINDINGS.whatProviderSays)
    .option('--recipes <files...>', FINDINGS.readRecipes)
    .option('--json', FINDINGS.printResultJson)
    .addHelpText('after', FINDINGS.useStandardInput)
    .action(async (file: string, options: { said?: string; recipes?: string[]; json?: boolean }) => {
      const code = await readCode(file);
      const facts = readFacts(code);
      const parts = suggestParts(code, options.said);
      const recipe = new RecipeBook((options.recipes ?? []).map(readRecipe)).recognise(facts);
      if (options.json) {
        printJson({
          facts,
          words: factWords(facts),
          parts,
          recipe: recipe ? { key: recipe.key, version: recipe.version } : null,
        });
        return;
      }
      for (const { title, lines } of factWords(facts)) {
        print(colour.bold(title));
        for (const line of lines) print(`  ${line}`);
      }
      if (recipe)
        print(colour.bold(say(FINDINGS.installOf, { recipe: recipe.name, version: recipe.version })));
      if (parts.length === 0) return;
      print(
        colour.bold(
          parts.length === 1 ? FINDINGS.whereGoes : say(FINDINGS.whereCountPieces, { count: parts.length }),
        ),
      );
      for (const { placement, because } of parts)
        print(`  ${colour.cyan(placementWords(placement))}: ${because}`);
    });
}
