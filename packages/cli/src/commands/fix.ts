import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { colour, printJson, printProse } from '../output.js';
import { FINDINGS } from '../texts/findings.js';
import { say } from '../texts/say.js';

interface Options extends SiteOptions {
  readonly all?: boolean;
  readonly preview?: boolean;
}

export function fix(program: Command): void {
  withSite(program.command('fix [findings...]'))
    .description(FINDINGS.fixDraftWhat)
    .option('--all', FINDINGS.everythingCanFixed)
    .option('--preview', FINDINGS.onlyShowWhat)
    .addHelpText('after', FINDINGS.pragmaticaCheckNames)
    .action(async (findings: string[], options: Options) => {
      if (findings.length === 0 && options.all !== true) throw new CliError(FINDINGS.nameFindingsFix);
      if (findings.length > 0 && options.all === true) throw new CliError(FINDINGS.nameFindingsSay);
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const body = {
        preview: options.preview === true,
        ...(options.all === true ? {} : { findings }),
      };
      const { data } = await client.call('fixFindings', { params: { site }, body });
      if (options.json) {
        printJson(data);
        return;
      }
      if (data.fixed.length === 0) {
        printProse(FINDINGS.nothingHereCan);
        return;
      }
      printProse(
        say(body.preview ? FINDINGS.wouldFix : FINDINGS.fixedFindings, { count: data.fixed.length }),
      );
      for (const { title, fix: done } of data.fixed)
        printProse(`  ${title}\n    ${colour.green('→')} ${done?.title ?? ''}`);
      printProse(colour.bold(body.preview ? FINDINGS.wouldChange : FINDINGS.changedInDraft));
      for (const change of data.changes) printProse(`  ${change}`);
      printProse(
        data.left.length === 0
          ? FINDINGS.nothingElseFound
          : say(FINDINGS.findingLeftPragmatica, { count: data.left.length }),
      );
    });
}
