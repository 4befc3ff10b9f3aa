import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { print, printJson } from '../output.js';

interface Options extends SiteOptions {
  readonly reason?: string;
  readonly until?: string;
  readonly end?: boolean;
}

export function waive(program: Command): void {
  withSite(program.command('waive <finding>'))
    .description('accept a finding for a while, with a reason that others can read')
    .option('--reason <text>', 'why it is all right')
    .option('--until <day>', 'the last day on which it is, like 2027-03-31')
    .option('--end', 'take the acceptance back')
    .addHelpText(
      'after',
      '\n"pragmatica check" names the findings. One comes back when its day is over, or when what it shows changes.\n\nExample:\n  pragmatica waive insecure-address-0c1f5e22ab --reason "Their server has no https before May" --until 2027-05-01',
    )
    .action(async (finding: string, options: Options) => {
      const { reason, until, end } = options;
      if (!end && (reason === undefined || until === undefined))
        throw new CliError('Say why and until when: --reason TEXT --until 2027-03-31.');
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), finding };
      if (end) {
        await client.call('removeWaiver', { params });
        if (options.json) printJson({ finding });
        else print(`"${finding}" is no longer accepted; "pragmatica check" shows it again.`);
        return;
      }
      const { data } = await client.call('waiveFinding', {
        params,
        body: { reason: reason!, until: until! },
      });
      if (options.json) printJson(data);
      else
        print(
          `Accepted until ${data.until}: ${data.reason}\nIt comes back then, or when what it shows changes.`,
        );
    });
}
