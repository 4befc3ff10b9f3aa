import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson } from '../output.js';

export function pages(program: Command): void {
  withSite(program.command('pages [pattern...]'))
    .description('the site’s known pages; with patterns, which of them these hold')
    .option('--except <pattern...>', 'leave these out')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica pages\n  pragmatica pages "/booking*" --except /booking/old',
    )
    .action(async (include: string[], options: SiteOptions & { except?: string[] }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const body = { include, exclude: options.except ?? [] };
      const { data } = await client.call('previewPages', { params, body });
      if (options.json) {
        printJson(data);
        return;
      }
      for (const path of data.matched) print(path);
      note(
        `\n${colour.bold(`${data.matched.length} of ${data.known}`)} known pages are ${data.words.replace(/^on /, 'among ')}. ${data.source}`,
      );
    });
}
