import { moveInList, placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
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
  }
  withSite(group.command('move <part>'))
    .description(SNIPPET.changeOrderWithin)
    .option('--first', SNIPPET.frontPlacement)
    .option('--last', SNIPPET.toTheEnd)
    .option('--before <part>', SNIPPET.rightBeforeAnother)
    .option('--after <part>', SNIPPET.rightAfterAnother)
    .addHelpText('after', SNIPPET.partSnippetS)
    .action(async (typed: string, options: MoveOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
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
