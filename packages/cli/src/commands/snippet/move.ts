import { moveInList, placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import type { ApiClient } from '@pragmatica/contract';
import { parsePlacement } from '../../code-input.js';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, print, printJson } from '../../output.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

export function move(group: Command): void {
  interface MoveOptions extends SiteOptions {
    readonly first?: boolean;
    readonly last?: boolean;
    readonly before?: string;
    readonly after?: string;
    readonly to?: string;
  }
  withSite(group.command('move <part...>'))
    .description(SNIPPET.changeOrderWithin)
    .option('--first', SNIPPET.frontPlacement)
    .option('--last', SNIPPET.toTheEnd)
    .option('--before <part>', SNIPPET.rightBeforeAnother)
    .option('--after <part>', SNIPPET.rightAfterAnother)
    .option('--to <placement>', SNIPPET.toPlacement)
    .addHelpText('after', SNIPPET.partSnippetS)
    .action(async (all: string[], options: MoveOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (options.to !== undefined) {
        await moveSeveral(client, site, all, options.to, options);
        return;
      }
      const [typed = '', ...others] = all;
      if (others.length > 0) throw new CliError(SNIPPET.severalNeedPlacement);
      const toPart = (name: string): string => (name.includes('/') ? name : `${name}/1`);
      const part = toPart(typed);
      await assertSnippet(client, site, part.split('/')[0]!);
      const target = targetOf(options, toPart);
      const { data: order, etag } = await client.call('showOrder', { params: { site } });
      const found = order.lists.find((entry) => entry.parts.includes(part));
      if (!found) throw new CliError(say(SNIPPET.typedHasNo, { typed }));
      const parts = moveInList(found.parts, part, target);
      if (!parts)
        throw new CliError(
          say(SNIPPET.bothMustStand, {
            placement: placementWords(found.placement),
            parts: found.parts.join(', '),
          }),
        );
      const { data } = await client.call('changeOrder', {
        params: { site },
        ifMatch: etag,
        body: { lists: [{ placement: found.placement, parts }] },
      });
      if (options.json) printJson(data);
      else
        print(
          say(SNIPPET.orderPlacementNow, {
            placement: placementWords(found.placement),
            parts: parts
              .map((key, index) => `  ${index + 1}. ${key === part ? colour.bold(key) : key}`)
              .join('\n'),
          }),
        );
    });

  function targetOf(options: MoveOptions, toPart: (name: string) => string) {
    if (options.first) return { to: 'first' as const };
    if (options.last) return { to: 'last' as const };
    if (options.before !== undefined) return { before: toPart(options.before) };
    if (options.after !== undefined) return { after: toPart(options.after) };
    throw new CliError(SNIPPET.sayWhereFirst);
  }
}

async function moveSeveral(
  client: ApiClient,
  site: string,
  snippets: string[],
  typed: string,
  options: SiteOptions,
): Promise<void> {
  for (const snippet of snippets) await assertSnippet(client, site, snippet);
  const placement = parsePlacement(typed);
  const { data } = await client.call('moveSnippets', { params: { site }, body: { snippets, placement } });
  if (options.json) {
    printJson(data);
    return;
  }
  if (data.moved.length > 0)
    print(say(SNIPPET.movedSeveral, { snippets: data.moved, placement: placementWords(placement) }));
  if (data.left.length > 0) print(say(SNIPPET.leftSeveral, { snippets: data.left }));
}
