import { moveInList, placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { colour, print, printJson } from '../../output.js';

export function move(group: Command): void {
  interface MoveOptions extends SiteOptions {
    readonly first?: boolean;
    readonly last?: boolean;
    readonly before?: string;
    readonly after?: string;
  }
  withSite(group.command('move <part>'))
    .description('change the order within a placement')
    .option('--first', 'to the front of its placement')
    .option('--last', 'to the end')
    .option('--before <part>', 'right before another part')
    .option('--after <part>', 'right after another part')
    .addHelpText(
      'after',
      '\nA part is a snippet’s key, or key/2 for its second part.\n\nExample:\n  pragmatica snippet move tag-container --before cookie-question',
    )
    .action(async (typed: string, options: MoveOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const toPart = (name: string): string => (name.includes('/') ? name : `${name}/1`);
      const part = toPart(typed);
      await assertSnippet(client, site, part.split('/')[0]!);
      const target = targetOf(options, toPart);
      const { data: order, etag } = await client.call('showOrder', { params: { site } });
      const found = order.lists.find((entry) => entry.parts.includes(part));
      if (!found)
        throw new CliError(`"${typed}" has no such part. A snippet’s parts are key/1, key/2 and so on.`);
      const parts = moveInList(found.parts, part, target);
      if (!parts)
        throw new CliError(
          `Both must stand in the same placement. ${placementWords(found.placement)} are: ${found.parts.join(', ')}.`,
        );
      const { data } = await client.call('changeOrder', {
        params: { site },
        ifMatch: etag,
        body: { lists: [{ placement: found.placement, parts }] },
      });
      if (options.json) printJson(data);
      else
        print(
          `The order ${placementWords(found.placement)} is now, in the draft:\n${parts.map((key, index) => `  ${index + 1}. ${key === part ? colour.bold(key) : key}`).join('\n')}`,
        );
    });

  function targetOf(options: MoveOptions, toPart: (name: string) => string) {
    if (options.first) return { to: 'first' as const };
    if (options.last) return { to: 'last' as const };
    if (options.before !== undefined) return { before: toPart(options.before) };
    if (options.after !== undefined) return { after: toPart(options.after) };
    throw new CliError('Say where to: --first, --last, --before PART or --after PART.');
  }
}
