import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson } from '../output.js';
import { EXPORT } from '../texts/export.js';

export function line(program: Command): void {
  withSite(program.command('line'))
    .description(EXPORT.line)
    .addOption(
      new Option('--environment <name>', EXPORT.environment).choices(['live', 'staging']).default('live'),
    )
    .action(async (options: SiteOptions & { readonly environment: 'live' | 'staging' }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { environment } = options;
      const { data } = await client.call('showLine', { params, query: { environment } });
      if (options.json) {
        printJson(data);
        return;
      }
      print(`${EXPORT.paste}\n  ${colour.bold(data.order)}`);
      print(`${EXPORT.pasteAsync}\n  ${data.async}`);
      note(EXPORT.thenPublish);
    });
}
