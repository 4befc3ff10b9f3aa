import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { report } from './words.js';

const SWITCHES = [
  { name: 'on', state: 'on', does: 'switch a snippet on', says: 'is on' },
  { name: 'off', state: 'off', does: 'switch a snippet off for a while', says: 'is off' },
  {
    name: 'archive',
    state: 'archived',
    does: 'put a snippet away; it stops running but is kept',
    says: 'is archived',
  },
] as const;

export function switches(group: Command): void {
  for (const { name, state, does, says } of SWITCHES) {
    withSite(group.command(`${name} <snippet>`))
      .description(does)
      .action(async (key: string, options: SiteOptions) => {
        const client = clientFor(options);
        const site = await siteFor(client, options);
        await assertSnippet(client, site, key);
        const params = { site, snippet: key };
        const { etag } = await client.call('showSnippet', { params });
        const { data } = await client.call('editSnippet', { params, ifMatch: etag, body: { state } });
        report(data, options, `"${key}" ${says} in the draft. Publish to make it so for visitors.`);
      });
  }
}
