import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { print, printJson, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { SURVEY } from '../texts/survey.js';
import { sideOf } from '../survey-side.js';
import { wholeNumber } from '../whole-number.js';

interface ScheduleOptions extends SiteOptions {
  readonly host?: string;
  readonly public?: boolean;
  readonly origin?: boolean;
  readonly limit: number;
  readonly ignoreRobots?: boolean;
  readonly delay: number;
  readonly off?: boolean;
}

/** When surveys begin by themselves. */
export function schedule(group: Command): void {
  withSite(group.command('schedule [cron]'))
    .description(SURVEY.scheduleOf)
    .option('--host <host>', SURVEY.whichHost)
    .addOption(new Option('--public', SURVEY.askPublic).conflicts('origin'))
    .option('--origin', SURVEY.askOrigin)
    .option('--limit <pages>', SURVEY.limit, wholeNumber, 10_000)
    .option('--ignore-robots', SURVEY.ignoreRobots)
    .option('--delay <ms>', SURVEY.delay, wholeNumber, 0)
    .addOption(new Option('--off', SURVEY.scheduleOff))
    .addHelpText('after', SURVEY.scheduleExamples)
    .action(async (cron: string | undefined, options: ScheduleOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (cron === undefined && !options.off) {
        const { data } = await client.call('listSchedules', { params: { site } });
        if (options.json) printJson(data.items);
        else if (data.items.length === 0) print(SURVEY.scheduleNone);
        else
          print(
            table(
              ['HOST', 'WHEN', 'NEXT', 'BY'],
              data.items.map((one) => [
                one.side === 'origin' ? `${one.host} (origin)` : one.host,
                one.words,
                one.nextAt === null ? '–' : when(one.nextAt),
                one.by,
              ]),
            ),
          );
        return;
      }
      if (cron !== undefined && options.off) throw new CliError(SURVEY.scheduleEither);
      const host = options.host ?? (await firstHost(client, site));
      const params = { site, host };
      if (options.off || cron === undefined) {
        await client.call('endSchedule', { params });
        print(say(SURVEY.scheduleEnded, { host }));
        return;
      }
      await client.call('setSchedule', {
        params,
        body: {
          cron,
          side: sideOf(options),
          limit: options.limit,
          ignoreRobots: options.ignoreRobots === true,
          delayMs: options.delay,
        },
      });
      const { data } = await client.call('listSchedules', { params: { site } });
      const set = data.items.find((one) => one.host === host)!;
      print(say(SURVEY.scheduleSet, { host, when: set.words, next: when(set.nextAt!) }));
    });
}

/** The first live one, or the first of all. */
async function firstHost(client: ReturnType<typeof clientFor>, site: string): Promise<string> {
  const { data } = await client.call('showSite', { params: { site } });
  const host = data.hosts.find(({ environment }) => environment === 'live') ?? data.hosts[0];
  if (!host) throw new CliError(SURVEY.scheduleNoHost);
  return host.host;
}
