import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { print, printJson } from '../output.js';
import { FINDINGS } from '../texts/findings.js';
import { say } from '../texts/say.js';

interface Options extends SiteOptions {
  readonly reason?: string;
  readonly until?: string;
  readonly end?: boolean;
}

export function waive(program: Command): void {
  withSite(program.command('waive <finding>'))
    .description(FINDINGS.acceptFindingWhile)
    .option('--reason <text>', FINDINGS.whyAllRight)
    .option('--until <day>', FINDINGS.lastDayWhich)
    .option('--end', FINDINGS.takeAcceptanceBack)
    .addHelpText('after', FINDINGS.pragmaticaCheckNamesFindings)
    .action(async (finding: string, options: Options) => {
      const { reason, until, end } = options;
      if (!end && (reason === undefined || until === undefined)) throw new CliError(FINDINGS.sayWhyUntil);
      const client = clientFor(options);
      const params = { site: await siteFor(client, options), finding };
      if (end) {
        await client.call('removeWaiver', { params });
        if (options.json) printJson({ finding });
        else print(say(FINDINGS.findingNoLonger, { finding }));
        return;
      }
      const { data } = await client.call('waiveFinding', {
        params,
        body: { reason: reason!, until: until! },
      });
      if (options.json) printJson(data);
      else print(say(FINDINGS.acceptedUntilUntil, { until: data.until, reason: data.reason }));
    });
}
