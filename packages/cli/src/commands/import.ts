import { readFileSync } from 'node:fs';
import { SITE_FORMAT, fieldErrors, siteFile } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { importChanges, type ImportOptions } from '../import-changes.js';
import { note, print, printJson, printProse } from '../output.js';
import { toText } from '../report/table.js';
import { readSet } from '../set-file.js';
import { COMMON } from '../texts/common.js';
import { FOLDER } from '../texts/folder.js';
import { say } from '../texts/say.js';

interface Options extends SiteOptions, ImportOptions {
  readonly as?: string;
  readonly hosts: boolean;
}

export function importFile(program: Command): void {
  withSite(program.command('import <file>'))
    .description(FOLDER.import)
    .option('--dry-run', FOLDER.dryRun)
    .option('--remove', FOLDER.remove)
    .option('--force', FOLDER.force)
    .option('--as <key>', FOLDER.as)
    .option('--without-hosts', FOLDER.withoutHosts)
    .addHelpText('after', FOLDER.importExamples)
    .action(async (file: string, options: Options & { readonly withoutHosts?: boolean }) => {
      const client = clientFor(options);
      const value = readJson(file);
      if (value.format !== SITE_FORMAT) {
        if (value.format !== 'pragmatica-set/1')
          throw new CliError(say(FOLDER.notAFile, { file, format: String(value.format) }));
        await importChanges(client, await siteFor(client, options), readSet(file), options);
        return;
      }
      const parsed = siteFile.safeParse(value);
      if (!parsed.success) {
        const [first, ...more] = fieldErrors(parsed.error, siteFile);
        const { pointer, detail } = first!;
        throw new CliError(
          say(FOLDER.wrongField, { file, field: pointer || '/', detail, more: more.length }),
        );
      }
      const { data } = await client.call('importSite', {
        body: {
          file: parsed.data,
          ...(options.as === undefined ? {} : { key: options.as }),
          withHosts: options.withoutHosts !== true,
          preview: options.dryRun === true,
        },
      });
      if (options.json) {
        printJson(data);
        return;
      }
      const { key, name, snippets, releases, waivers } = data;
      print(say(data.isDone ? FOLDER.added : FOLDER.wouldAdd, { key, name, snippets, releases, waivers }));
      print(data.hosts.length > 0 ? say(FOLDER.hosts, { list: data.hosts }) : FOLDER.noHosts);
      if (data.recipes.length > 0) {
        const list = data.recipes.map((recipe) => `${recipe.name} ${recipe.version}`);
        print(say(FOLDER.recipes, { list }));
      }
      if (data.found.length > 0) printProse(`\n${toText({ open: data.found, isFixable: data.isDone })}`);
      if (!data.isDone) note(FOLDER.onlyShown);
    });
}

function readJson(file: string): { readonly format?: unknown } {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CliError(say(COMMON.thereNoFileFile, { file }));
  }
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === 'object' && value !== null) return value;
  } catch (error) {
    throw new CliError(say(COMMON.fileNotJson, { file, message: (error as Error).message }));
  }
  throw new CliError(say(FOLDER.notAFile, { file, format: '' }));
}
