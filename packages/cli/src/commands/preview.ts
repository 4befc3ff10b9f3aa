import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, print, printJson, when } from '../output.js';
import { PREVIEW } from '../texts/preview.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

interface PreviewOptions extends SiteOptions {
  readonly environment: 'live' | 'staging';
  readonly host?: string;
  readonly hours: number;
  readonly release?: number;
}

export function preview(program: Command): void {
  withSite(program.command('preview'))
    .description(PREVIEW.description)
    .argument('[path]', PREVIEW.path, '/')
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .option('--host <host>', PREVIEW.host)
    .option('--hours <hours>', PREVIEW.hours, wholeNumber, 24)
    .option('--release <number>', PREVIEW.release, wholeNumber)
    .addHelpText('after', PREVIEW.examples)
    .action(async (path: string, options: PreviewOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { environment, host, hours, release } = options;
      const { data } = await client.call('makePreview', {
        params: { site },
        body: { path, environment, host, hours, release },
      });
      if (options.json) {
        printJson(data);
        return;
      }
      const what =
        release === undefined ? PREVIEW.draft : say(PREVIEW.ofRelease, { release: String(release) });
      print(say(PREVIEW.made, { what, host: data.host, until: when(data.until) }));
      print(`  ${colour.bold(data.address)}`);
      if (data.isOnlyHere) print(PREVIEW.onlyHere);
    });
}
