import { Option, type Command } from 'commander';
import { parsePlacement, readCode } from '../code-input.js';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, print, printJson, table } from '../output.js';
import { PLACE } from '../texts/place.js';
import { say } from '../texts/say.js';

interface PlaceOptions extends SiteOptions {
  readonly code?: string;
  readonly pages?: string[];
  readonly except?: string[];
  readonly environment: 'live' | 'staging';
  readonly host?: string;
}

/** Ends with 1 where a page has no place for the code. */
export function place(program: Command): void {
  withSite(program.command('place'))
    .description(PLACE.description)
    .argument('<placement>', PLACE.placement)
    .option('--code <file>', PLACE.code)
    .option('--pages <patterns...>', PLACE.pages)
    .option('--except <patterns...>', PLACE.except)
    .addOption(
      new Option('--environment <name>', PLACE.environment).choices(['live', 'staging']).default('live'),
    )
    .option('--host <host>', PLACE.host)
    .addHelpText('after', PLACE.examples)
    .action(async (typed: string, options: PlaceOptions) => {
      const placement = parsePlacement(typed);
      const { code, pages = [], except = [], environment, host } = options;
      const client = clientFor(options);
      const { data } = await client.call('checkPlace', {
        params: { site: await siteFor(client, options) },
        body: {
          placement,
          ...(code === undefined ? {} : { code: await readCode(code) }),
          pages: { include: pages, exclude: except },
          ...{ environment, host },
        },
      });
      const without = data.pages.filter(({ message }) => message !== null);
      if (without.length > 0 || data.pages.length === 0) process.exitCode = 1;
      if (options.json) {
        printJson(data);
        return;
      }
      if (data.pages.length === 0) {
        print(PLACE.none);
        return;
      }
      print(
        table(
          [PLACE.path, PLACE.result],
          data.pages.map(({ path, message }) => [path, message ?? colour.green(PLACE.yes)]),
        ),
      );
      print(
        say(PLACE.summary, {
          with: data.pages.length - without.length,
          looked: data.pages.length,
          more: data.known > data.pages.length ? data.known : 0,
        }),
      );
    });
}
