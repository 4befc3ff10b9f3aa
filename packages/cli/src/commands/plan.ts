import { placementKey, placementWords, tellingLine } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson } from '../output.js';

export function plan(program: Command): void {
  withSite(program.command('plan <path>'))
    .description('what one page load gets, in order, and why the rest is left out')
    .option('--of <set>', 'live, staging, draft or the number of a release', 'live')
    .addHelpText('after', '\nExamples:\n  pragmatica plan /booking\n  pragmatica plan / --of draft')
    .action(async (path: string, options: SiteOptions & { of: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('showPlan', { params: { site }, query: { path, of: options.of } });
      if (options.json) {
        printJson(data);
        return;
      }
      print(`${colour.bold(data.path)} gets, in this order (${options.of}):`);
      let placement = '';
      for (const part of data.parts) {
        const key = placementKey(part.placement);
        if (key !== placement) print(`\n  ${colour.cyan(placementWords(part.placement))}`);
        placement = key;
        print(`    ${part.name}  ${colour.dim(`${part.key}  ${shorten(tellingLine(part.code))}`)}`);
      }
      if (data.parts.length === 0) print('\n  nothing');
      if (data.leftOut.length > 0) print(`\n  ${colour.yellow('left out')}`);
      for (const entry of data.leftOut) print(`    ${entry.name}  ${colour.dim(entry.message)}`);
      if (options.of === 'live') await noteDraft();

      async function noteDraft(): Promise<void> {
        const { data: draft } = await client.call('showPlan', {
          params: { site },
          query: { path, of: 'draft' },
        });
        if (JSON.stringify(draft.parts) !== JSON.stringify(data.parts))
          note('\nThe draft would give this page something else: see --of draft.');
      }
    });
}

const SHOWN = 56;

function shorten(line: string): string {
  return line.length > SHOWN ? `${line.slice(0, SHOWN)}…` : line;
}
