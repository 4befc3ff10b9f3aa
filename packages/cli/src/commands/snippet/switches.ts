import type { Command } from 'commander';
import { assertSnippet, clientFor, siteFor, withSite, type SiteOptions } from '../../context.js';
import { printJson } from '../../output.js';
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
    withSite(group.command(`${name} <snippets...>`))
      .description(does)
      .action(async (keys: string[], options: SiteOptions) => {
        const client = clientFor(options);
        const site = await siteFor(client, options);
        for (const key of keys) await assertSnippet(client, site, key);
        const body = { snippets: keys, state };
        const { data } = await client.call('switchSnippets', { params: { site }, body });
        if (options.json) printJson(data.items.length === 1 ? data.items[0] : data.items);
        else
          for (const item of data.items)
            report(item, options, say(SNIPPET.keySaysDraft, { key: item.key, says }));
      });
  }
}
