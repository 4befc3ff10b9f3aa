import { Option, type Command } from 'commander';
import { clientFor, normalize, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, print, printJson, table, when } from '../output.js';
import { HANDOVER } from '../texts/handover.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

interface HandoverOptions extends SiteOptions {
  readonly environment: 'live' | 'staging';
  readonly days: number;
  readonly list?: boolean;
  readonly end?: number;
}

/** A link for whoever has the access to the site builder. */
export function handover(group: Command): void {
  withSite(group.command('handover'))
    .description(HANDOVER.description)
    .option('--days <days>', HANDOVER.days, wholeNumber, 14)
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .option('--list', HANDOVER.list)
    .option('--end <id>', HANDOVER.end, wholeNumber)
    .addHelpText('after', HANDOVER.examples)
    .action(async (options: HandoverOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const params = { site };
      if (options.end !== undefined) {
        await client.call('endHandover', { params: { site, handover: options.end } });
        if (!options.json) print(say(HANDOVER.ended, { id: options.end }));
      } else if (options.list) {
        const { items } = (await client.call('listHandovers', { params })).data;
        if (options.json) printJson(items);
        else if (items.length === 0) print(HANDOVER.none);
        else
          print(
            table(
              ['LINK', 'FOR', 'BY', 'UNTIL', HANDOVER.lastUsed],
              items.map(({ id, environment, by, until, usedAt }) => [
                ...[String(id), environment, by, when(until)],
                usedAt === null ? HANDOVER.notUsed : when(usedAt),
              ]),
            ),
          );
      } else {
        const body = { environment: options.environment, days: options.days };
        const { data } = await client.call('createHandover', { params, body });
        const address = new URL(data.path, normalize(options.server)).href;
        if (options.json) printJson({ ...data, address });
        else print(`${say(HANDOVER.made, { until: when(data.until) })}\n  ${colour.bold(address)}`);
      }
    });
}
