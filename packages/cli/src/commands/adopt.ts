import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { print, printJson } from '../output.js';
import { SURVEY } from '../texts/survey.js';

interface AdoptOptions extends SiteOptions {
  readonly name?: string;
  readonly key?: string;
  readonly pages?: string[];
  readonly with?: string;
}

export function adopt(program: Command): void {
  withSite(program.command('adopt <id>'))
    .description(SURVEY.adoptOne)
    .option('--name <name>', SURVEY.adoptName)
    .option('--key <key>', SURVEY.adoptKey)
    .option('--pages <pattern...>', SURVEY.adoptPages)
    .option('--with <ids>', SURVEY.adoptWith)
    .action(async (id: string, options: AdoptOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), sighting: Number(id) };
      const body = {
        ...(options.name === undefined ? {} : { name: options.name }),
        ...(options.key === undefined ? {} : { key: options.key }),
        ...(options.pages ? { pages: { include: options.pages, exclude: [] } } : {}),
        with: (options.with ?? '').split(',').filter(Boolean).map(Number),
      };
      const { data } = await client.call('adoptSighting', { params, body });
      if (options.json) printJson(data);
      else print(data.words);
    });
}

export function ignore(program: Command): void {
  withSite(program.command('ignore <id>'))
    .description(SURVEY.ignoreOne)
    .option('--because <reason>', SURVEY.ignoreWhy)
    .option('--undo', SURVEY.ignoreUndo)
    .action(async (id: string, options: SiteOptions & { because?: string; undo?: boolean }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), sighting: Number(id) };
      if (options.undo) await client.call('heedSighting', { params });
      else await client.call('ignoreSighting', { params, body: { reason: options.because ?? '' } });
      print(options.undo ? SURVEY.heeded : SURVEY.ignored);
    });
}
