import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson } from '../output.js';
import { FRAGMENTS } from '../texts/fragments.js';

export function fragments(program: Command): void {
  withSite(program.command('fragments'))
    .description(FRAGMENTS.description)
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .action(async (options: SiteOptions & { readonly environment: 'live' | 'staging' }) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { environment } = options;
      const { data } = await client.call('showLine', { params, query: { environment } });
      const { base, includes, nginx } = data.fragments;
      if (options.json) {
        printJson(data.fragments);
        return;
      }
      print(`${FRAGMENTS.ssi}\n${indented(includes.map(({ ssi }) => ssi))}`);
      print(`\n${FRAGMENTS.nginx}\n${indented(nginx.split('\n'))}`);
      print(`\n${FRAGMENTS.esi}\n${indented(includes.map(({ esi }) => esi))}`);
      print(`\n${FRAGMENTS.json}\n  ${colour.bold(`${base}.json?path=/fares`)}`);
      note(FRAGMENTS.anchor);
    });
}

function indented(lines: readonly string[]): string {
  return lines.map((line) => `  ${line}`).join('\n');
}
