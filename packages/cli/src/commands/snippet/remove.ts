import type { Command } from 'commander';
import { askFirst } from '../../ask-first.js';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { print, printJson } from '../../output.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

export function remove(group: Command): void {
  withSite(group.command('remove <snippet>'))
    .description(SNIPPET.removeSnippetFrom)
    .option('-y, --yes', SNIPPET.doNotAsk)
    .action(async (key: string, options: SiteOptions & { yes?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      await askFirst({
        yes: options.yes,
        message: say(SNIPPET.removeKeyFrom, { key }),
        unasked: SNIPPET.removingAsksFirst,
        left: SNIPPET.nothingWasRemoved,
      });
      const params = { site, snippet: key };
      const { etag } = await client.call('showSnippet', { params });
      await client.call('removeSnippet', { params, ifMatch: etag });
      if (options.json) printJson({ removed: key });
      else print(say(SNIPPET.removedKeyFrom, { key }));
    });
}
