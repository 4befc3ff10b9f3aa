import type { SnippetPatch, SnippetResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor } from '../../context.js';
import { CliError } from '../../errors.js';
import { readParts, withContent, type ContentOptions } from './content.js';
import { placesWords, reachText, report } from './words.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

export function edit(group: Command): void {
  withContent(group.command('edit <snippet>'))
    .description(SNIPPET.changeSnippetDraft)
    .option('--name <name>', SNIPPET.newName)
    .option('--all-pages', SNIPPET.everyPageAgain)
    .addHelpText('after', SNIPPET.examplesPragmaticaSnippetEdit)
    .action(async (key: string, options: ContentOptions & { name?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      const body = await patchOf(old, options);
      if (Object.keys(body).length === 0) throw new CliError(SNIPPET.sayWhatChange);
      const { data } = await client.call('editSnippet', { params, ifMatch: etag, body });
      report(
        data,
        options,
        say(SNIPPET.changedKeyDraft, { key, places: placesWords(data), reach: reachText(data) }),
      );
    });
}

async function patchOf(
  old: SnippetResource,
  options: ContentOptions & { name?: string },
): Promise<SnippetPatch> {
  const patch: SnippetPatch = {};
  for (const field of ['name', 'provider', 'purpose', 'note'] as const)
    if (options[field] !== undefined) patch[field] = options[field];
  if (options.allPages) patch.pages = { include: [], exclude: [] };
  else if (options.pages ?? options.except)
    patch.pages = {
      include: options.pages ?? old.pages.include,
      exclude: options.except ?? old.pages.exclude,
    };
  if (options.needs !== undefined) patch.needs = options.needs.filter((key) => key !== 'none');
  const parts = await readParts(options, old);
  if (parts) patch.parts = parts;
  return patch;
}
