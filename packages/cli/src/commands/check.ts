import { planQuery } from '@pragmatica/contract';
import { momentOf, runChecks, applyWaivers, type Severity } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { print, printJson } from '../output.js';
import { toJunit } from '../report/junit.js';
import { toSarif } from '../report/sarif.js';
import { toText } from '../report/table.js';
import { isFailure, type Checked } from '../report/types.js';
import { readSet } from '../set-file.js';

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
    .description('look through the whole set for what is wrong or could be better')
    .option('--of <set>', 'draft, live, staging or the number of a release', 'draft')
    .option('--against <set>', 'only what is new against this set, e.g. live')
    .option('--set <file>', 'check a set from a file, without the service')
    .option('--at <time>', 'with --set: as if it were then, like 2027-03-31T10:00; now when left out')
    .addOption(
      new Option('--format <format>', 'table, json, sarif (SARIF 2.1.0) or junit (JUnit XML)').choices(
        Object.keys(FORMATS),
      ),
    )
    .addOption(
      new Option('--fail-on <severity>', 'exit with 1 from this severity on')
        .choices(['error', 'warning'])
        .default('error'),
    )
    .addHelpText(
      'after',
      '\n"pragmatica explain CHECK" says more about a check.\n\nExamples:\n  pragmatica check\n  pragmatica check --against live\n  pragmatica check --set set.json --fail-on warning --format sarif',
    )
    .action(async (options: Options) => {
      if (options.set !== undefined && options.against !== undefined)
        throw new CliError('--against compares with a set of the service; it does not go with --set.');
      if (options.at !== undefined && options.set === undefined)
        throw new CliError('--at goes with --set; the service checks by its own clock.');
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
  return {
    set: `“${file}”`,
    site: snapshot.site.key,
    failOn,
    ...applyWaivers(runChecks(snapshot, { now }), [], ''),
  };
}

/** By the site's own clock, or an RFC 3339 timestamp. @throws CliError */
function readMoment(at: string, timeZone: string): number {
  if (!planQuery.shape.at.safeParse(at).success)
    throw new CliError(`"${at}" is no time. Write it like 2027-03-31T10:00.`);
  return /(?:Z|[+-]\d{2}:\d{2})$/.test(at) ? Date.parse(at) : momentOf(at, timeZone);
}

async function ask(options: Options): Promise<Checked> {
  const { of, against, failOn } = options;
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const { data } = await client.call('listFindings', { params: { site }, query: { of, against } });
  const set = of === 'draft' ? 'the draft' : /^\d+$/.test(of) ? `release ${of}` : `what ${of} serves`;
  return { set, site, failOn, open: data.items, waived: data.waived };
}
