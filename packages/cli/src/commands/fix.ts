import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, count, print, printJson } from '../output.js';

interface Options extends SiteOptions {
  readonly all?: boolean;
  readonly preview?: boolean;
}

export function fix(program: Command): void {
  withSite(program.command('fix [findings...]'))
    .description('fix in the draft what can safely be fixed; nothing goes live before you publish')
    .option('--all', 'everything that can be fixed')
    .option('--preview', 'only show what would change')
    .addHelpText(
      'after',
      '\n"pragmatica check" names the findings.\n\nExamples:\n  pragmatica fix --all --preview\n  pragmatica fix same-code-0c1f5e22ab',
    )
    .action(async (findings: string[], options: Options) => {
      if (findings.length === 0 && options.all !== true)
        throw new CliError('Name the findings to fix, or say --all. "pragmatica check" names them.');
      if (findings.length > 0 && options.all === true)
        throw new CliError('Name findings or say --all, not both.');
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const body = {
        preview: options.preview === true,
        ...(options.all === true ? {} : { findings }),
      };
      const { data } = await client.call('fixFindings', { params: { site }, body });
      if (options.json) {
        printJson(data);
        return;
      }
      if (data.fixed.length === 0) {
        print('Nothing here can be fixed automatically.');
        return;
      }
      const verb = body.preview ? 'Would fix' : 'Fixed';
      print(`${verb} ${count(data.fixed.length, 'finding')}:`);
      for (const { title, fix: done } of data.fixed)
        print(`  ${title}\n    ${colour.green('→')} ${done?.title ?? ''}`);
      print(colour.bold(`\n${body.preview ? 'That would change' : 'Changed in'} the draft:`));
      for (const change of data.changes) print(`  ${change}`);
      print(
        data.left.length === 0
          ? '\nNothing else is found.'
          : `\n${count(data.left.length, 'finding')} left; "pragmatica check" shows ${data.left.length === 1 ? 'it' : 'them'}.`,
      );
    });
}
