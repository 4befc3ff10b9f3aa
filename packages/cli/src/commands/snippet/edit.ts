import type { SnippetPatch, SnippetResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor } from '../../context.js';
import { CliError } from '../../errors.js';
import { readParts, withContent, type ContentOptions } from './content.js';
import { placesWords, reachText, report } from './words.js';

export function edit(group: Command): void {
  withContent(group.command('edit <snippet>'))
    .description('change a snippet in the draft; what is not named stays')
    .option('--name <name>', 'a new name')
    .option('--all-pages', 'on every page again')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica snippet edit harbour-chat --code chat.html\n  pragmatica snippet edit summer-offer --pages / /fares --note "until September"',
    )
    .action(async (key: string, options: ContentOptions & { name?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const params = { site, snippet: key };
      const { data: old, etag } = await client.call('showSnippet', { params });
      const body = await patchOf(old, options);
      if (Object.keys(body).length === 0)
        throw new CliError(
          'Say what to change, e.g. --code FILE or --pages. See "pragmatica snippet edit --help".',
        );
      const { data } = await client.call('editSnippet', { params, ifMatch: etag, body });
      report(data, options, `Changed "${key}" in the draft: ${placesWords(data)}, ${reachText(data)}.`);
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
