import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { report } from './words.js';
import { SNIPPET } from '../../texts/snippet.js';
import { say } from '../../texts/say.js';

const SWITCHES = [
  { name: 'on', state: 'on', does: SNIPPET.switchSnippet, says: SNIPPET.isOn },
  { name: 'off', state: 'off', does: SNIPPET.switchSnippetOff, says: SNIPPET.off },
  {
    name: 'archive',
    state: 'archived',
    does: SNIPPET.putSnippetAway,
    says: SNIPPET.archived,
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
        report(data, options, say(SNIPPET.keySaysDraft, { key, says }));
      });
  }
}
