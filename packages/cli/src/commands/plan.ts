import { DEVICES, placementKey, placementWords, summaryLine, type Device } from '@pragmatica/core';
import type { PagePlanResource, PlanQuery } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { clipped, colour, note, print, printJson, printProse } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';

interface PlanOptions extends SiteOptions {
  readonly of?: string;
  readonly draft?: boolean;
  readonly diff?: boolean;
  readonly host?: string;
  readonly environment?: 'staging' | 'live';
  readonly at?: string;
  readonly device: Device;
  readonly consent?: string[];
  readonly visitor?: 'first' | 'returning';
  readonly width?: string;
  readonly code?: boolean;
}

export function plan(program: Command): void {
  withSite(program.command('plan <path>'))
    .description(PLAN.whatOnePage)
    .option('--draft', PLAN.askDraft)
    .option('--of <set>', PLAN.askLiveStaging)
    .option('--diff', PLAN.whatDraftWould)
    .option('--host <host>', PLAN.oneSiteS)
    .addOption(new Option('--environment <name>', PLAN.liveWhenLeft).choices(['live', 'staging']))
    .option('--at <time>', PLAN.siteSClock)
    .addOption(new Option('--device <device>', 'which').choices(DEVICES).default('desktop'))
    .option('--consent <purpose...>', PLAN.whatVisitorAgreed)
    .addOption(new Option('--visitor <who>', PLAN.eitherWhenLeft).choices(['first', 'returning']))
    .option('--width <pixels>', PLAN.widthWindow)
    .option('--code', PLAN.printWholeCode)
    .addHelpText('after', PLAN.examplesPragmaticaPlan)
    .action(async (path: string, options: PlanOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('showPlan', { params: { site }, query: queryOf(path, options) });
      if (options.json) printJson(data);
      else if (options.diff) tellDifference(data);
      else tellPlan(data, options);
    });
}

function queryOf(path: string, options: PlanOptions): PlanQuery {
  const { draft, host, environment, at, device, consent, visitor, width } = options;
  if (draft && options.of !== undefined) throw new CliError(PLAN.useEitherDraft);
  if (options.diff && (draft === true || options.of === 'draft')) throw new CliError(PLAN.diffComparesDraft);
  return {
    path,
    of: draft ? 'draft' : options.of,
    host,
    environment,
    at,
    device,
    consent: consent?.flatMap((part) => part.split(',')).join(','),
    visitor,
    width,
  };
}

function tellPlan(data: PagePlanResource, { code = false, draft = false }: PlanOptions): void {
  print(say(PLAN.pathGetsOrder, { path: colour.bold(data.path), of: data.of }));
  print(colour.dim(`  ${question(data)}`));
  let placement = '';
  for (const part of data.parts) {
    const key = placementKey(part.placement);
    if (key !== placement) print(`\n  ${colour.cyan(placementWords(part.placement))}`);
    placement = key;
    const waits =
      part.waits === undefined
        ? ''
        : `  ${colour.yellow(say(PLAN.browserWaitsWaits, { waits: part.waits }))}`;
    const line = code ? '' : `  ${clipped(summaryLine(part.code), SHOWN)}`;
    print(`    ${part.name}  ${colour.dim(`${part.key}${line}`)}${waits}`);
    if (code) print(part.code.replace(/^/gm, '      '));
  }
  if (data.parts.length === 0) print('\n  nothing');
  if (data.leftOut.length > 0) print(`\n  ${colour.yellow(PLAN.leftOut)}`);
  for (const { name, reasons } of data.leftOut) {
    printProse(`    ${name}  ${reasons[0]!.message}`);
    for (const { message } of reasons.slice(1)) printProse(colour.dim(say(PLAN.alsoMessage, { message })));
  }
  if (data.untilLocal !== null) note(say(PLAN.openingHoursChange, { untilLocal: data.untilLocal }));
  if (!draft && data.draftChanges.length > 0) note(PLAN.draftWouldGive);
}

/** The page load that was asked about, in one line. */
function question({ load }: PagePlanResource): string {
  const { host, environment, localTime, device, consent, visitor, width } = load;
  return [
    host === '' ? environment : `${host} (${environment})`,
    localTime,
    device,
    consent.length === 0 ? PLAN.noConsent : say(PLAN.consentConsent, { consent: consent.join(', ') }),
    visitor === null ? '' : visitor === 'first' ? PLAN.firstVisit : PLAN.beenHereBefore,
    width === null ? '' : say(PLAN.widthPixelsWide, { width }),
  ]
    .filter(Boolean)
    .join(' · ');
}

function tellDifference(data: PagePlanResource): void {
  print(say(PLAN.pathDraftInstead, { path: colour.bold(data.path), of: data.of }));
  print(colour.dim(`  ${question(data)}`));
  print();
  if (data.draftChanges.length === 0) print(PLAN.nothingChanges);
  for (const change of data.draftChanges) printProse(`  ${colour.yellow('•')} ${change}`);
}

const SHOWN = 57;
