import { factWords, placementWords, readCode as readFacts, suggestParts } from '@pragmatica/core';
import type { Command } from 'commander';
import { readCode } from '../code-input.js';
import { colour, print, printJson } from '../output.js';

export function read(program: Command): void {
  program
    .command('read <file>')
    .description('what a piece of code is, what it does and where it goes; needs no service, runs nothing')
    .option('--said <sentence>', 'what the provider says of where the code goes')
    .option('--json', 'print the result as JSON')
    .addHelpText(
      'after',
      '\nUse - for standard input.\n\nExamples:\n  pragmatica read chat.html\n  pragmatica read - --said "just before the closing body tag"',
    )
    .action(async (file: string, options: { said?: string; json?: boolean }) => {
      const code = await readCode(file);
      const facts = readFacts(code);
      const parts = suggestParts(code, options.said);
      if (options.json) {
        printJson({ facts, words: factWords(facts), parts });
        return;
      }
      for (const { title, lines } of factWords(facts)) {
        print(colour.bold(title));
        for (const line of lines) print(`  ${line}`);
      }
      if (parts.length === 0) return;
      print(colour.bold(parts.length === 1 ? 'Where it goes' : `Where its ${parts.length} pieces go`));
      for (const { placement, because } of parts)
        print(`  ${colour.cyan(placementWords(placement))}: ${because}`);
    });
}
