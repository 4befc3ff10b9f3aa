import { planQuery } from '@pragmatica/contract';
import { applyWaivers, momentOf, runChecks, wordFinding, type Severity } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { print, printJson } from '../output.js';
import { toJunit } from '../report/junit.js';
import { toSarif } from '../report/sarif.js';
import { toText } from '../report/table.js';
import { isFailure, type Checked } from '../report/types.js';
import { readSet } from '../set-file.js';
import { FINDINGS } from '../texts/findings.js';
import { LOCALE, say } from '../texts/say.js';

interface Options extends SiteOptions {
  readonly of: string;
  readonly set?: string;
  readonly at?: string;
  readonly against?: string;
  readonly failOn: Exclude<Severity, 'advice'>;
  readonly format?: Format;
}

/** How the findings can be printed. One more is one more file and one line here. */
const FORMATS = {
  table: (checked: Checked) => print(toText(checked)),
  json: ({ open, waived }: Checked) => printJson({ items: open, waived }),
  sarif: (checked: Checked, version: string) => printJson(toSarif(checked, version)),
  junit: (checked: Checked) => print(toJunit(checked).trimEnd()),
};
type Format = keyof typeof FORMATS;

export function check(program: Command): void {
  withSite(program.command('check'))
    .description(FINDINGS.lookThroughWhole)
    .option('--of <set>', FINDINGS.draftLiveStaging, 'draft')
    .option('--against <set>', FINDINGS.onlyWhatNew)
    .option('--set <file>', FINDINGS.checkSetFrom)
    .option('--at <time>', FINDINGS.setIfWere)
    .addOption(new Option('--format <format>', FINDINGS.tableJsonSarif).choices(Object.keys(FORMATS)))
    .addOption(
      new Option('--fail-on <severity>', FINDINGS.exitFromSeverity)
        .choices(['error', 'warning'])
        .default('error'),
    )
    .addHelpText('after', FINDINGS.pragmaticaExplainCheck)
    .action(async (options: Options) => {
      if (options.set !== undefined && options.against !== undefined)
        throw new CliError(FINDINGS.againstComparesSet);
      if (options.at !== undefined && options.set === undefined) throw new CliError(FINDINGS.goesSetService);
      const checked = options.set === undefined ? await ask(options) : checkFile(options.set, options);
      const format = options.format ?? (options.json ? 'json' : 'table');
      FORMATS[format](checked, program.version()!);
      if (checked.open.some(({ severity }) => isFailure(severity, options.failOn)))
        process.exitCode = EXIT.found;
    });
}

function checkFile(file: string, { failOn, at }: Options): Checked {
  const snapshot = readSet(file);
  const now = at === undefined ? Date.now() : readMoment(at, snapshot.site.timeZone);
  const found = runChecks(snapshot, { now }).map((finding) => wordFinding(finding, LOCALE));
  return {
    set: say(FINDINGS.file, { file }),
    site: snapshot.site.key,
    failOn,
    ...applyWaivers(found, [], ''),
  };
}

/** By the site's own clock, or an RFC 3339 timestamp. @throws CliError */
function readMoment(at: string, timeZone: string): number {
  if (!planQuery.shape.at.safeParse(at).success) throw new CliError(say(FINDINGS.noTimeWrite, { at }));
  return /(?:Z|[+-]\d{2}:\d{2})$/.test(at) ? Date.parse(at) : momentOf(at, timeZone);
}

async function ask(options: Options): Promise<Checked> {
  const { of, against, failOn } = options;
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const { data } = await client.call('listFindings', { params: { site }, query: { of, against } });
  const set = of === 'draft' ? FINDINGS.draft : /^\d+$/.test(of) ? `release ${of}` : `what ${of} serves`;
  return { set, site, failOn, open: data.items, waived: data.waived };
}
