import { DEVICES, placementKey, placementWords, summaryLine, type Device } from '@pragmatica/core';
import type { PagePlanResource, PlanQuery } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { clipped, colour, note, print, printJson } from '../output.js';

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
    .description('what one page load gets, in order, and every reason why the rest is left out')
    .option('--draft', 'ask it of the draft')
    .option('--of <set>', 'ask it of live, staging, draft or the number of a release')
    .option('--diff', 'what the draft would change for this page load')
    .option('--host <host>', 'one of the site’s hosts')
    .addOption(new Option('--environment <name>', 'live when left out').choices(['live', 'staging']))
    .option('--at <time>', 'on the site’s clock, like 2027-03-31T10:00; now when left out')
    .addOption(new Option('--device <device>', 'which').choices(DEVICES).default('desktop'))
    .option('--consent <purpose...>', 'what the visitor agreed to; "all" or "none", which is the default')
    .addOption(new Option('--visitor <who>', 'either when left out').choices(['first', 'returning']))
    .option('--width <pixels>', 'width of the window')
    .option('--code', 'print the whole code of each part')
    .addHelpText(
      'after',
      '\nExamples:\n  pragmatica plan /booking\n  pragmatica plan / --at 2027-03-31T20:00 --device phone\n  pragmatica plan / --consent adverts\n  pragmatica plan / --draft\n  pragmatica plan / --diff',
    )
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
  if (draft && options.of !== undefined) throw new CliError('Use either --draft or --of.');
  if (options.diff && (draft === true || options.of === 'draft'))
    throw new CliError('--diff compares with the draft: leave out --draft.');
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
  print(`${colour.bold(data.path)} gets this, in this order, from ${data.of}:`);
  print(colour.dim(`  ${question(data)}`));
  let placement = '';
  for (const part of data.parts) {
    const key = placementKey(part.placement);
    if (key !== placement) print(`\n  ${colour.cyan(placementWords(part.placement))}`);
    placement = key;
    const waits = part.waits === undefined ? '' : `  ${colour.yellow(`the browser waits: ${part.waits}`)}`;
    const line = code ? '' : `  ${clipped(summaryLine(part.code), SHOWN)}`;
    print(`    ${part.name}  ${colour.dim(`${part.key}${line}`)}${waits}`);
    if (code) print(part.code.replace(/^/gm, '      '));
  }
  if (data.parts.length === 0) print('\n  nothing');
  if (data.leftOut.length > 0) print(`\n  ${colour.yellow('left out')}`);
  for (const { name, reasons } of data.leftOut) {
    print(`    ${name}  ${reasons[0]!.message}`);
    for (const { message } of reasons.slice(1)) print(colour.dim(`      also: ${message}`));
  }
  if (data.untilLocal !== null) note(`\nOpening hours change this next: ${data.untilLocal}.`);
  if (!draft && data.draftChanges.length > 0)
    note('\nThe draft would give this page load something else: see --diff.');
}

/** The page load that was asked about, in one line. */
function question({ load }: PagePlanResource): string {
  const { host, environment, localTime, device, consent, visitor, width } = load;
  return [
    host === '' ? environment : `${host} (${environment})`,
    localTime,
    device,
    consent.length === 0 ? 'no consent' : `consent to ${consent.join(', ')}`,
    visitor === null ? '' : visitor === 'first' ? 'a first visit' : 'been here before',
    width === null ? '' : `${width} pixels wide`,
  ]
    .filter(Boolean)
    .join(' · ');
}

function tellDifference(data: PagePlanResource): void {
  print(`${colour.bold(data.path)} with the draft instead of ${data.of}:`);
  print(colour.dim(`  ${question(data)}`));
  print();
  if (data.draftChanges.length === 0) print('  nothing changes');
  for (const change of data.draftChanges) print(`  ${colour.yellow('•')} ${change}`);
}

const SHOWN = 57;
