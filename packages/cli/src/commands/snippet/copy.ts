import { listAllSites } from '@pragmatica/contract';
import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { tellResults } from '../../results.js';
import { SNIPPET } from '../../texts/snippet.js';

interface Options extends SiteOptions {
  readonly to?: string[];
  readonly toAll?: boolean;
}

export function copy(group: Command): void {
  withSite(group.command('copy <snippet...>'))
    .description(SNIPPET.copySnippetFields)
    .option('--to <site...>', SNIPPET.intoThese)
    .option('--to-all', SNIPPET.intoAllOthers)
    .action(async (keys: string[], options: Options) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      for (const key of keys) await assertSnippet(client, site, key);
      const sites = options.toAll
        ? (await listAllSites(client)).map((entry) => entry.key).filter((entry) => entry !== site)
        : (options.to ?? []).flatMap((typed) => typed.split(','));
      if (sites.length === 0) throw new CliError(SNIPPET.sayWhereSite);
      const results = [];
      for (const snippet of keys) {
        const { data } = await client.call('copySnippet', { params: { site, snippet }, body: { sites } });
        results.push(...data.items);
      }
      tellResults(results, options);
    });
}
