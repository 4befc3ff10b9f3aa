import { partKey, placementKey, placementWords, snippetFits, type SnippetState } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { colour, print, printJson, table, when } from '../../output.js';
import { reachText, stateWords } from './words.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

interface ListOptions extends SiteOptions {
  readonly find?: string;
  readonly state?: SnippetState;
  readonly placement?: string;
}

export function list(group: Command): void {
  withSite(group.command('list'))
    .description(SNIPPET.listSnippetsDraft)
    .option('--find <words>', SNIPPET.findWords)
    .addOption(new Option('--state <state>', SNIPPET.onlyState).choices(['on', 'off', 'archived']))
    .option('--placement <placement>', SNIPPET.onlyPlacement)
    .action(async (options: ListOptions) => {
      const client = clientFor(options);
      const { data } = await client.call('listSnippets', {
        params: { site: await siteFor(client, options) },
      });
      const filter = { words: options.find, state: options.state, placement: options.placement };
      const items = data.items.filter((item) => snippetFits(item, filter));
      if (options.json) printJson(items);
      else if (data.items.length === 0) print(SNIPPET.noSnippetsYet);
      else if (items.length === 0) print(SNIPPET.noneFits);
      else {
        const rows = items.map((item) => [
          colour.bold(item.key),
          stateWords(item.state),
          item.parts.map((part) => placementKey(part.placement)).join(', '),
          reachText(item).replace(/^on /, ''),
          item.provider,
          item.name,
        ]);
        print(table(['SNIPPET', 'STATE', 'PLACEMENT', SNIPPET.runs, 'PROVIDER', 'NAME'], rows));
      }
    });
}

export function show(group: Command): void {
  withSite(group.command('show <snippet>'))
    .description(SNIPPET.showOneSnippet)
    .action(async (key: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      const { data } = await client.call('showSnippet', { params: { site, snippet: key } });
      if (options.json) {
        printJson(data);
        return;
      }
      print(`${colour.bold(data.name)}  ${stateWords(data.state)}`);
      const lines = [
        [SNIPPET.key, data.key],
        [SNIPPET.purpose, data.purpose],
        [SNIPPET.provider, data.provider],
        [SNIPPET.note, data.note],
        [SNIPPET.runsLabel, reachText(data)],
        [SNIPPET.needs, data.needs.join(', ')],
        [SNIPPET.recipe, data.recipe ? `${data.recipe.key}, version ${data.recipe.version}` : ''],
        [SNIPPET.changed, `by ${data.updatedBy}`],
      ];
      for (const [label, value] of lines) if (value) print(`${colour.dim(label!.padEnd(9))} ${value}`);
      data.parts.forEach((part, index) => {
        print(`\n${colour.cyan(`${partKey(data.key, index)}  ${placementWords(part.placement)}`)}`);
        if (part.statement)
          print(colour.dim(say(SNIPPET.providerSaysStatement, { statement: part.statement })));
        if (part.per === 'view') print(colour.dim(SNIPPET.perView));
        print(part.code.replace(/^/gm, '  '));
      });
    });
}

export function history(group: Command): void {
  withSite(group.command('history <snippet>'))
    .description(SNIPPET.releasesChangedSnippet)
    .action(async (key: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { items } = (await client.call('showHistory', { params: { site, snippet: key } })).data;
      if (options.json) printJson(items);
      else if (items.length === 0) print(say(SNIPPET.noReleaseHolds, { key }));
      else
        for (const { release, createdAt, author, message, changes } of items) {
          print(
            `${colour.bold(say(SNIPPET.releaseRelease, { release }))}  ${when(createdAt)}  ${author}  ${colour.dim(message)}`,
          );
          for (const change of changes) print(`  ${change}`);
        }
    });
}
