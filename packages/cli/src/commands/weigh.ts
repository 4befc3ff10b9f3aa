import type { WeightResource } from '@pragmatica/contract';
import { DEVICES, type Device } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { EXIT } from '../errors.js';
import { colour, note, print, printJson, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { WEIGH } from '../texts/weigh.js';
import { followRound } from '../visits/follow-round.js';

type Page = WeightResource['pages'][number];
type Figures = Page['adds'];

interface WeighOptions extends SiteOptions {
  readonly environment: 'live' | 'staging';
  readonly host?: string;
  readonly device?: Device;
  readonly draft?: boolean;
  readonly all?: boolean;
  readonly last?: boolean;
}

export function weigh(program: Command): void {
  withSite(program.command('weigh [paths...]'))
    .description(WEIGH.description)
    .addOption(new Option('--environment <name>', WEIGH.which).choices(['live', 'staging']).default('live'))
    .option('--host <host>', WEIGH.host)
    .addOption(new Option('--device <device>', WEIGH.device).choices(DEVICES))
    .option('--draft', WEIGH.draft)
    .option('--all', WEIGH.all)
    .addOption(new Option('--last', WEIGH.last).conflicts(['all', 'draft', 'device', 'host']))
    .addHelpText('after', WEIGH.examples)
    .action(async (paths: string[], options: WeighOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { environment, host, device, draft = false, all = false } = options;
      let round: number | undefined;
      if (options.last !== true) {
        const body = {
          ...{ environment, draft, weigh: true },
          ...(host === undefined ? {} : { host }),
          ...(device === undefined ? {} : { devices: [device] }),
          pages: paths.length > 0 ? paths : all ? ('all' as const) : ('sample' as const),
        };
        const { data: started } = await client.call('startVisits', { params: { site }, body });
        round = (await followRound(client, site, started.number)).number;
      }
      const { data } = await client.call('showWeight', { params: { site }, query: { round } });
      if (options.json) printJson(data);
      else report(data);
      if (data.isWithin === false) process.exitCode = EXIT.found;
      else if (data.failed.length > 0) process.exitCode = EXIT.failed;
    });
}

function report({
  host,
  release,
  isRehearsal,
  endedAt,
  round,
  budgetKb,
  pages,
  failed,
}: WeightResource): void {
  const what = isRehearsal ? WEIGH.theDraft : say(WEIGH.release, { number: release ?? 0 });
  print(say(WEIGH.head, { host, what, when: endedAt === null ? '' : when(endedAt), round }));
  if (budgetKb !== null) print(say(WEIGH.budget, { kb: budgetKb }));
  for (const page of pages) reportPage(page);
  for (const { path, device } of failed) print(`\n${colour.red(say(WEIGH.failed, { path, device }))}`);
  if (budgetKb === null) note(WEIGH.noBudget);
}

function reportPage(page: Page): void {
  const { path, device, bare, full, snippets, sharedBytes, running, isWithin, sentence, advice } = page;
  print(`\n${colour.bold(say(WEIGH.page, { path, device }))}`);
  const paint = isWithin === false ? colour.red : isWithin === true ? colour.green : (text: string) => text;
  print(paint(sentence));
  if (advice !== '') print(advice);
  if (running === 0) print(WEIGH.nothing);
  else if (snippets.length === 0) print(say(WEIGH.whole, { count: running }));
  print(
    table(WEIGH.columns, [
      [WEIGH.bare, ...figures(bare)],
      ...snippets.map((one) => [`+ ${one.name}`, ...figures(one.adds)]),
      ...(sharedBytes > 0 ? [[`+ ${WEIGH.shared}`, kb(sharedBytes)]] : []),
      [WEIGH.full, ...figures(full)],
    ]),
  );
}

function kb(bytes: number): string {
  return (bytes / 1_000).toFixed(1);
}

function figures({ bytes, requests, blockingMs, shift, readyMs }: Figures): string[] {
  return [
    kb(bytes),
    String(requests),
    String(blockingMs),
    shift === 0 ? '0' : shift.toFixed(3),
    readyMs === null ? '' : String(readyMs),
  ];
}
