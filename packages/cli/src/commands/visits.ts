import { writeFileSync } from 'node:fs';
import type { VisitDetail, VisitRoundResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError } from '../errors.js';
import { note, print, printJson, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { followRound } from '../visits/follow-round.js';
import { reportRound } from '../visits/report-round.js';
import { reportVisit } from '../visits/report-visit.js';
import { wholeNumber } from '../whole-number.js';

export function visits(program: Command): void {
  const command = withSite(program.command('visits [round]')).enablePositionalOptions();
  command
    .description(VISITS.listAll)
    .addHelpText('after', VISITS.visitsExamples)
    .action(async (round: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (round !== undefined) {
        const { data } = await client.call('showVisitRound', { params: { site, round: referenceOf(round) } });
        if (options.json) printJson(data);
        else reportRound(data);
        return;
      }
      const { data } = await client.call('listVisitRounds', { params: { site }, query: {} });
      const rounds = data.items.filter(({ isQuestion }) => !isQuestion);
      if (options.json) printJson(data.items);
      else if (rounds.length === 0) print(VISITS.none);
      else
        print(
          table(
            ['ROUND', 'STARTED', 'HOST', 'RELEASE', 'STATE', 'VISITS', 'WHY'],
            rounds.map((one) => [
              String(one.number),
              when(one.createdAt),
              one.host,
              String(one.release ?? ''),
              one.state,
              `${one.done} of ${one.planned}`,
              reasonOf(one),
            ]),
          ),
        );
    });
  withSite(command.command('watch <round>'))
    .description(VISITS.watchOne)
    .action(async (round: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const number = wholeNumber(round);
      await followRound(client, site, number);
      const { data } = await client.call('showVisitRound', { params: { site, round: number } });
      if (options.json) printJson(data);
      else reportRound(data);
    });
  withSite(command.command('cancel <round>'))
    .description(VISITS.cancelOne)
    .action(async (round: string, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('cancelVisits', { params: { site, round: wholeNumber(round) } });
      if (options.json) printJson(data);
      else print(`${data.number}  ${data.state}`);
    });
}

/** Why a round was made. */
function reasonOf({ reason, confirms, isRehearsal, requestedBy }: VisitRoundResource): string {
  if (confirms !== null) return say(VISITS.becauseLost, { round: confirms });
  if (reason !== null) return reason === 'release' ? VISITS.becausePublished : VISITS.becausePlanned;
  return say(isRehearsal ? VISITS.becauseRehearsed : VISITS.becauseAsked, { by: requestedBy });
}

interface VisitOptions extends SiteOptions {
  readonly har?: string;
  readonly screenshot?: string;
  readonly delivered?: string;
  readonly dom?: string;
}

export function visit(program: Command): void {
  withSite(program.command('visit <round/visit>'))
    .description(VISITS.visitOne)
    .option('--har <file>', VISITS.harTo)
    .option('--screenshot <file>', VISITS.screenshotTo)
    .option('--delivered <file>', VISITS.deliveredTo)
    .option('--dom <file>', VISITS.domTo)
    .addHelpText('after', VISITS.visitExamples)
    .action(async (typed: string, options: VisitOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const [round = '', number = ''] = typed.split('/', 2);
      if (!/^(?:\d+|latest)$/.test(round) || !/^\d+$/.test(number)) throw new CliError(VISITS.writeLike);
      const params = { site, round: referenceOf(round), visit: Number(number) };
      const { data } = await client.call('showVisit', { params });
      if (options.har !== undefined) {
        const { data: har } = await client.call('exportHar', { params });
        save(options.har, JSON.stringify(har, null, 1));
      }
      if (options.screenshot !== undefined) {
        const screenshot = lastScreenshot(data);
        const { data: image } = await client.call('showScreenshot', { params: { ...params, screenshot } });
        save(options.screenshot, Buffer.from(image.data, 'base64'));
      }
      if (options.delivered !== undefined || options.dom !== undefined) {
        const { data: page } = await client.call('showVisitPage', { params });
        if (options.delivered !== undefined) save(options.delivered, page.html);
        if (options.dom !== undefined) save(options.dom, page.dom);
      }
      if (options.json) printJson(data);
      else reportVisit(data);
    });
}

function save(file: string, content: string | Uint8Array): void {
  writeFileSync(file, content);
  note(say(VISITS.wrote, { file }));
}

function referenceOf(typed: string): 'latest' | number {
  return typed === 'latest' ? 'latest' : wholeNumber(typed);
}

/** @throws CliError where there is none */
function lastScreenshot({ loads }: VisitDetail): number {
  const found = loads.flatMap(({ screenshot }) => screenshot ?? []).at(-1);
  if (found === undefined) throw new CliError(VISITS.noScreenshot);
  return found;
}
