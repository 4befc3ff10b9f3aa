import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { CliError } from '../../errors.js';
import { print, printJson } from '../../output.js';

export function remove(group: Command): void {
  withSite(group.command('remove <snippet>'))
    .description('remove a snippet from the draft; releases keep their copy')
    .option('-y, --yes', 'do not ask')
    .action(async (key: string, options: SiteOptions & { yes?: boolean }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      await assertSnippet(client, site, key);
      if (!options.yes) {
        if (!process.stdin.isTTY)
          throw new CliError('Removing asks first. Say --yes when nobody can answer.');
        const { confirm } = await import('@inquirer/prompts');
        if (!(await confirm({ message: `Remove "${key}" from the draft?`, default: false })))
          throw new CliError('Nothing was removed.');
      }
      const params = { site, snippet: key };
      const { etag } = await client.call('showSnippet', { params });
      await client.call('removeSnippet', { params, ifMatch: etag });
      if (options.json) printJson({ removed: key });
      else print(`Removed "${key}" from the draft. Visitors get it until you publish; old releases keep it.`);
    });
}
