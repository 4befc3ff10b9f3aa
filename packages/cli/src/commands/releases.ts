import { environment as environmentSchema } from '@pragmatica/contract';
import { writeFileSync } from 'node:fs';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, count, note, print, printJson, table, when } from '../output.js';

type EnvironmentName = 'live' | 'staging';
const ENVIRONMENT_NAMES: readonly string[] = environmentSchema.options;

export function diff(program: Command): void {
  withSite(program.command('diff'))
    .description('what differs between live and the draft, in words')
    .option('--from <set>', 'live, staging, draft or the number of a release', 'live')
    .option('--to <set>', 'the same', 'draft')
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
        print(`No difference between ${data.from} and ${data.to}.`);
        return;
      }
      print(`From ${data.from} to ${data.to}:\n`);
      for (const change of data.changes)
        print(`  ${change.visible ? colour.yellow('•') : colour.dim('·')} ${change.message}`);
      const unseen = data.changes.filter((change) => !change.visible).length;
      if (unseen > 0) print(colour.dim(`\n· visitors do not notice`));
    });
}

export function publish(program: Command): void {
  withSite(program.command('publish'))
    .description('publish the draft as a new release, all or nothing')
    .requiredOption('-m, --message <text>', 'what it changes, for those who look for it later')
    .addOption(new Option('--to <environment...>', 'where to').choices(ENVIRONMENT_NAMES))
    .option('--force <reason>', 'in spite of errors that the checks find; the reason is kept in the release')
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
      print(
        `Published release ${data.number} to ${data.environments.join(' and ')}: ${count(data.snippets, 'snippet')} on.`,
      );
      if (data.meanwhile.length > 0) {
        note('Changed in the draft meanwhile, and not in this release:');
        for (const change of data.meanwhile) note(`  ${change}`);
        note('To publish that, too, run the command again.');
      }
      note('Visitors get it from now on. Make sure with "pragmatica verify".');
    });
}

export function releases(program: Command): void {
  withSite(program.command('releases'))
    .description('list all releases')
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const { items } = (
        await client.call('listReleases', { params: { site: await siteFor(client, options) } })
      ).data;
      if (options.json) printJson(items);
      else if (items.length === 0)
        print('Nothing was published yet. Publish with: pragmatica publish -m MESSAGE');
      else {
        const rows = items.map((item) => [
          colour.bold(String(item.number)),
          when(item.createdAt),
          item.author,
          item.environments.map((name) => colour.green(name)).join(', '),
          String(item.snippets),
          item.forced ? `${item.message} ${colour.yellow(`(forced: ${item.forced.reason})`)}` : item.message,
        ]);
        print(table(['RELEASE', 'PUBLISHED', 'BY', 'SERVED IN', 'ON', 'MESSAGE'], rows));
      }
    });
}

export function restore(program: Command): void {
  withSite(program.command('restore <release>'))
    .description('put a release back for visitors; the draft stays as it is')
    .addOption(new Option('--environment <name>', 'where').choices(ENVIRONMENT_NAMES).default('live'))
    .action(async (typed: string, options: SiteOptions & { environment: EnvironmentName }) => {
      if (!/^\d{1,9}$/.test(typed))
        throw new CliError(`"${typed}" is not the number of a release. See "pragmatica releases".`);
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
        print(
          `${data.environment} serves release ${String(data.release)} again${before.release === null ? '' : ` (before: release ${before.release})`}. The draft was not touched.`,
        );
    });
}

export function exportSet(program: Command): void {
  withSite(program.command('export'))
    .description('write a snippet set as a file, for "pragmatica insert" or for keeping')
    .option('--of <set>', 'live, draft or the number of a release', 'live')
    .option('--out <file>', 'write it there instead of to standard output')
    .action(async (options: SiteOptions & { of: string; out?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const snapshot = await load();
      const text = JSON.stringify(snapshot, null, 2);
      if (options.out === undefined) print(text);
      else {
        writeFileSync(options.out, `${text}\n`);
        note(`Wrote ${count(snapshot.snippets.length, 'snippet')} to ${options.out}.`);
      }

      async function load() {
        if (options.of === 'draft')
          return (await client.call('showDraft', { params: { site } })).data.snapshot;
        const number =
          options.of === 'live' || options.of === 'staging' ? await served(options.of) : Number(options.of);
        if (!Number.isInteger(number))
          throw new CliError(`"${options.of}" is not draft, live, staging or the number of a release.`);
        return (await client.call('showRelease', { params: { site, release: number } })).data.snapshot;
      }

      async function served(environment: EnvironmentName): Promise<number> {
        const { data } = await client.call('showEnvironment', { params: { site, environment } });
        if (data.release === null)
          throw new CliError(`Nothing was published to ${environment} yet. Use --of draft.`);
        return data.release;
      }
    });
}
