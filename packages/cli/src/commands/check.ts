import { planQuery } from '@pragmatica/contract';
import { applyWaivers, momentOf, runChecks, unknownTo, wordFinding, type Severity } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { knowledgeOf, knownInFile, type Given } from '../known-site.js';
import { print, printJson, printProse } from '../output.js';
import { toJunit } from '../report/junit.js';
import { toSarif } from '../report/sarif.js';
import { toText } from '../report/table.js';
import { isFailure, type Checked } from '../report/types.js';
import { readSet } from '../set-file.js';
import { FINDINGS } from '../texts/findings.js';
import { LOCALE, say } from '../texts/say.js';

interface Options extends SiteOptions, Given {
  readonly of: string;
  readonly set?: string;
  readonly at?: string;
  readonly zone?: string;
  readonly against?: string;
  readonly failOn: Exclude<Severity, 'advice'>;
  readonly format?: Format;
}

/** How the findings can be printed. One more is one more file and one line here. */
const FORMATS = {
  table: (checked: Checked) => printProse(toText(checked)),
  json: ({ open, waived, unknown }: Checked) => printJson({ items: open, waived, unknown }),
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
    .option('--host <host...>', FINDINGS.setHosts)
    .option('--zone <zone>', FINDINGS.setZone)
    .option('--pages <source>', FINDINGS.setPages)
    .option('--headers <file>', FINDINGS.setHeaders)
    .option('--recipes <files...>', FINDINGS.setRecipes)
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
      const alone = SET_ONLY.find((name) => options[name] !== undefined);
      if (alone !== undefined && options.set === undefined)
        throw new CliError(say(FINDINGS.goesSetService, { option: `--${alone}` }));
      const checked = options.set === undefined ? await ask(options) : checkFile(options.set, options);
      const format = options.format ?? (options.json ? 'json' : 'table');
      FORMATS[format](checked, program.version()!);
      if (checked.open.some(({ severity }) => isFailure(severity, options.failOn)))
        process.exitCode = EXIT.found;
    });
}

/** What the service knows by itself, and a file has to be told. */
const SET_ONLY = ['at', 'host', 'zone', 'pages', 'headers', 'recipes'] as const;

function checkFile(file: string, options: Options): Checked {
  const { failOn, zone } = options;
  const set = readSet(file);
  if (zone !== undefined && !isTimeZone(zone)) throw new CliError(say(FINDINGS.noZone, { zone }));
  const snapshot = zone === undefined ? set : { ...set, site: { ...set.site, timeZone: zone } };
  const { own, ...inFile } = knownInFile(file);
  const given = { ...inFile, ...options };
  const now = given.at === undefined ? Date.now() : readMoment(given.at, snapshot.site.timeZone);
  const knowledge = knowledgeOf(given, now, own);
  const found = runChecks(snapshot, knowledge).map((finding) => wordFinding(finding, LOCALE));
  return {
    set: say(FINDINGS.file, { file }),
    site: snapshot.site.key,
    failOn,
    isFixable: false,
    unknown: unknownTo(knowledge),
    ...applyWaivers(found, [], ''),
  };
}

function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
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
  const { items, waived, unknown } = data;
  return { set, site, failOn, isFixable: of === 'draft', unknown, open: items, waived };
}
