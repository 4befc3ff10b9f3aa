import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';

export function pages(program: Command): void {
  withSite(program.command('pages [pattern...]'))
    .description(PLAN.siteSKnown)
    .option('--except <pattern...>', PLAN.leaveTheseOut)
    .addHelpText('after', PLAN.examplesPragmaticaPages)
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
        say(PLAN.howManyMatch, {
          matched: colour.bold(`${data.matched.length} of ${data.known}`),
          pages: data.words.replace(/^on /, 'among '),
          source: data.source,
        }),
      );
    });
}
