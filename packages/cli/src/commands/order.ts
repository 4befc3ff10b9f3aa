import { placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson } from '../output.js';

interface Options extends SiteOptions {
  readonly of: string;
  readonly right?: boolean;
  readonly preview?: boolean;
}

const VERDICTS = {
  fine: colour.green('fine '),
  race: colour.yellow('race '),
  wrong: colour.red('wrong'),
} as const;

export function order(program: Command): void {
  withSite(program.command('order'))
    .description('what needs what, and whether the order is right')
    .option('--of <set>', 'draft, live, staging or the number of a release', 'draft')
    .option('--right', 'put the draft into the right order, by the fewest moves')
    .option('--preview', 'with --right: only show the moves')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica order\n  pragmatica order --right --preview\n  pragmatica order --right',
    )
    .action(async (options: Options) => {
      if (options.right && options.of !== 'draft')
        throw new CliError('Only the draft can be put in order; releases stay as they are.');
      if (options.preview && !options.right) throw new CliError('--preview goes with --right.');
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (options.right) {
        const preview = options.preview === true;
        const { data } = await client.call('rightOrder', { params: { site }, body: { preview } });
        if (options.json) printJson(data);
        else if (data.changes.length === 0) print('Nothing has to be moved.');
        else {
          print(colour.bold(preview ? 'This would put it right:' : 'Put right in the draft:'));
          for (const sentence of data.changes) print(`  ${sentence}`);
        }
        return;
      }
      const { data } = await client.call('showOrderReport', { params: { site }, query: { of: options.of } });
      if (data.dependencies.some(({ verdict }) => verdict === 'wrong')) process.exitCode = EXIT.found;
      if (options.json) {
        printJson(data);
        return;
      }
      if (data.dependencies.length === 0) {
        print('None of the snippets needs another, as far as their code shows.');
        return;
      }
      for (const { verdict, because } of data.dependencies) print(`${VERDICTS[verdict]}  ${because}`);
      for (const cycle of data.cycles)
        print(
          `\n${colour.red('In a circle:')} ${cycle.join(', ')}. No order is right; one of them has to wait.`,
        );
      if (data.moves.length === 0) return;
      print(colour.bold('\nIn the right order with:'));
      for (const { sentence, placement } of data.moves)
        print(`  ${sentence} ${colour.dim(`(${placementWords(placement)})`)}`);
      if (options.of === 'draft') print('\nDo it with: pragmatica order --right');
    });
}
