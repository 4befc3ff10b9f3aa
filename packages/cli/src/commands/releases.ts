import { environment as environmentSchema, listAllReleases } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, note, printJson, printProse, table, when } from '../output.js';
import { RELEASES } from '../texts/releases.js';
import { say } from '../texts/say.js';

type EnvironmentName = 'live' | 'staging';
const ENVIRONMENT_NAMES: readonly string[] = environmentSchema.options;

export function diff(program: Command): void {
  withSite(program.command('diff'))
    .description(RELEASES.whatDiffersBetween)
    .option('--from <set>', RELEASES.liveStagingDraft, 'live')
    .option('--to <set>', RELEASES.same, 'draft')
    .action(async (options: SiteOptions & { from: string; to: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('showDiff', {
        params: { site },
        query: { from: options.from, to: options.to },
      });
      if (options.json) {
        printJson(data);
        return;
      }
      if (data.changes.length === 0) {
        printProse(say(RELEASES.noDifferenceBetween, { from: data.from, to: data.to }));
        return;
      }
      printProse(say(RELEASES.fromFrom, { from: data.from, to: data.to }));
      for (const change of data.changes)
        printProse(`  ${change.visible ? colour.yellow('•') : colour.dim('·')} ${change.message}`);
      const unseen = data.changes.filter((change) => !change.visible).length;
      if (unseen > 0) printProse(colour.dim(RELEASES.visitorsDoNot));
    });
}

export function publish(program: Command): void {
  withSite(program.command('publish'))
    .description(RELEASES.publishDraftNew)
    .requiredOption('-m, --message <text>', RELEASES.whatChangesThose)
    .addOption(new Option('--to <environment...>', RELEASES.whereTo).choices(ENVIRONMENT_NAMES))
    .option('--force <reason>', RELEASES.spiteErrorsChecks)
    .action(async (options: SiteOptions & { message: string; to?: EnvironmentName[]; force?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { etag } = await client.call('showDraft', { params: { site } });
      const { data } = await client.call('publish', {
        params: { site },
        ifMatch: etag,
        body: { message: options.message, environments: options.to, force: options.force },
      });
      if (options.json) {
        printJson(data);
        return;
      }
      printProse(
        say(RELEASES.publishedReleaseNumber, {
          number: data.number,
          environments: data.environments.join(' and '),
          snippets: data.snippets,
        }),
      );
      if (data.meanwhile.length > 0) {
        note(RELEASES.changedDraftMeanwhile);
        for (const change of data.meanwhile) note(`  ${change}`);
        note(RELEASES.publishTooRun);
      }
      note(RELEASES.visitorsGetFrom);
    });
}

export function releases(program: Command): void {
  withSite(program.command('releases'))
    .description(RELEASES.listAllReleases)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const items = await listAllReleases(client, await siteFor(client, options));
      if (options.json) printJson(items);
      else if (items.length === 0) printProse(RELEASES.nothingWasPublished);
      else {
        const rows = items.map((item) => [
          colour.bold(String(item.number)),
          when(item.createdAt),
          item.author,
          item.environments.map((name) => colour.green(name)).join(', '),
          String(item.snippets),
          item.forced
            ? `${item.message} ${colour.yellow(say(RELEASES.forcedReason, { reason: item.forced.reason }))}`
            : item.message,
        ]);
        printProse(table(['RELEASE', 'PUBLISHED', 'BY', RELEASES.served, 'ON', 'MESSAGE'], rows));
      }
    });
}

export function restore(program: Command): void {
  withSite(program.command('restore <release>'))
    .description(RELEASES.putReleaseBack)
    .addOption(new Option('--environment <name>', 'where').choices(ENVIRONMENT_NAMES).default('live'))
    .action(async (typed: string, options: SiteOptions & { environment: EnvironmentName }) => {
      if (!/^\d{1,9}$/.test(typed)) throw new CliError(say(RELEASES.typedNotNumber, { typed }));
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), environment: options.environment };
      const { data: before, etag } = await client.call('showEnvironment', { params });
      const { data } = await client.call('restoreRelease', {
        params,
        ifMatch: etag,
        body: { release: Number(typed) },
      });
      if (options.json) printJson(data);
      else
        printProse(
          say(before.release === null ? RELEASES.servesAgain : RELEASES.servesAgainAfter, {
            environment: data.environment,
            release: String(data.release),
            before: before.release ?? '',
          }),
        );
    });
}
