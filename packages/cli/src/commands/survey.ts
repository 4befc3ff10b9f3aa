import type { ApiClient, SurveyResource } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, note, print, printJson, printProse, table, when } from '../output.js';
import { folderPages, handOver, harPages } from '../given-pages.js';
import { readPathsFile } from '../paths-file.js';
import { say } from '../texts/say.js';
import { SURVEY } from '../texts/survey.js';
import { sideOf } from '../survey-side.js';
import { wholeNumber } from '../whole-number.js';
import { schedule } from './schedule.js';

interface StartOptions extends SiteOptions {
  readonly environment: 'live' | 'staging';
  readonly host?: string;
  readonly public?: boolean;
  readonly origin?: boolean;
  readonly limit: number;
  readonly pathsFrom?: string;
  readonly folder?: string;
  readonly har?: string;
  readonly cleanPaths?: boolean;
  readonly ignoreRobots?: boolean;
  readonly concurrency: number;
  readonly delay: number;
  readonly follow: boolean;
}

export function survey(program: Command): void {
  const command = withSite(program.command('survey')).enablePositionalOptions();
  command
    .description(SURVEY.walkOver)
    .addOption(
      new Option('--environment <name>', SURVEY.environmentOf).choices(['live', 'staging']).default('live'),
    )
    .option('--host <host>', SURVEY.whichHost)
    .addOption(new Option('--public', SURVEY.askPublic).conflicts('origin'))
    .option('--origin', SURVEY.askOrigin)
    .option('--limit <pages>', SURVEY.limit, wholeNumber, 10_000)
    .option('--paths-from <file>', SURVEY.pathsFrom)
    .addOption(new Option('--folder <folder>', SURVEY.ofFolder).conflicts(['har', 'pathsFrom']))
    .option('--clean-paths', SURVEY.cleanPaths)
    .addOption(new Option('--har <file>', SURVEY.ofHar).conflicts('pathsFrom'))
    .option('--ignore-robots', SURVEY.ignoreRobots)
    .option('--concurrency <number>', SURVEY.atOnce, wholeNumber, 4)
    .option('--delay <ms>', SURVEY.delay, wholeNumber, 0)
    .option('--no-follow', SURVEY.noFollow)
    .addHelpText('after', SURVEY.surveyExamples)
    .action(async (options: StartOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const given = await givenSet(client, site, options);
      const body = {
        environment: options.environment,
        ...(options.host === undefined ? {} : { host: options.host }),
        side: given?.side ?? sideOf(options),
        ...(given === undefined ? {} : { given: given.set }),
        limit: options.limit,
        paths: options.pathsFrom === undefined ? [] : readPathsFile(options.pathsFrom),
        ignoreRobots: options.ignoreRobots === true,
        concurrency: options.concurrency,
        delayMs: options.delay,
      };
      const { data } = await client.call('startSurvey', { params: { site }, body });
      if (options.follow) await followAll(client, site, data.number, options);
      else if (options.json) printJson(data);
      else print(say(SURVEY.started, { number: data.number, host: data.host }));
    });
  withSite(command.command('list'))
    .description(SURVEY.listSurveys)
    .action(async (options: SiteOptions) => {
      const client = clientFor(options);
      const params = { site: await siteFor(client, options) };
      const { data } = await client.call('listSurveys', { params, query: {} });
      if (options.json) printJson(data.items);
      else if (data.items.length === 0) print(SURVEY.noSurveys);
      else
        print(
          table(
            ['SURVEY', 'STARTED', 'HOST', 'STATE', 'PAGES'],
            data.items.map((one) => [
              String(one.number),
              when(one.createdAt),
              hostWords(one),
              one.state,
              say(SURVEY.progress, { visited: one.visited, found: one.found }),
            ]),
          ),
        );
    });
  withSite(command.command('watch [number]'))
    .description(SURVEY.watchOne)
    .action(async (number: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      report(await watch(client, site, await numberOf(client, site, number)), options);
    });
  withSite(command.command('cancel [number]'))
    .description(SURVEY.cancelOne)
    .action(async (number: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const params = { site, survey: await numberOf(client, site, number) };
      const { data } = await client.call('cancelSurvey', { params });
      if (options.json) printJson(data);
      else print(endWords(data));
    });
  withSite(command.command('changes [number]'))
    .description(SURVEY.changesOf)
    .action(async (number: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('showSurveyChanges', {
        params: { site, survey: number === undefined ? 'latest' : Number(number) },
      });
      if (options.json) printJson(data);
      else if (data.from === null) print(SURVEY.noChangesFrom);
      else for (const line of data.lines) printProse(line);
    });
  withSite(command.command('sides [number]'))
    .description(SURVEY.sidesOf)
    .action(async (number: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const { data } = await client.call('showSides', {
        params: { site, survey: number === undefined ? 'latest' : Number(number) },
      });
      if (data.differences.length > 0) process.exitCode = EXIT.found;
      if (options.json) {
        printJson(data);
        return;
      }
      print(colour.dim(say(SURVEY.sidesOfSurveys, { public: data.public, origin: data.origin })));
      for (const { name, pages } of data.ours) print(say(SURVEY.sidesOurs, { name, pages }));
      for (const line of data.lines) printProse(line);
    });
  schedule(command);
}

/** Pages of a folder are the site's own, those of a recording are what a visitor got, unless somebody says otherwise. */
async function givenSet(
  client: ApiClient,
  site: string,
  { folder, har, cleanPaths = false, ...options }: StartOptions,
): Promise<{ readonly set: string; readonly side: 'public' | 'origin' } | undefined> {
  const asked = sideOf(options);
  if (folder !== undefined) {
    const set = await handOver(client, site, folderPages(folder, cleanPaths), folder);
    return { set, side: asked === 'both' ? 'origin' : asked };
  }
  if (har === undefined) return undefined;
  return { set: await handOver(client, site, harPages(har), har), side: asked === 'both' ? 'public' : asked };
}

/** Watches a survey, and the one that follows it. */
async function followAll(
  client: ApiClient,
  site: string,
  number: number,
  options: SiteOptions,
): Promise<void> {
  const { data } = await client.call('listSurveys', { params: { site }, query: { limit: 5 } });
  const next = data.items.find(({ after }) => after === number);
  const first = await watch(client, site, number);
  report(first, options);
  if (next && first.state === 'done') {
    const second = await watch(client, site, next.number);
    // As JSON there is one answer: what visitors get.
    if (!options.json) report(second, options);
  }
  if (!options.json && first.state === 'done')
    note(colour.dim(next ? SURVEY.nextStepsOfBoth : SURVEY.nextSteps));
}

/** The newest one, whatever its state, where no number is given. */
async function numberOf(client: ApiClient, site: string, number: string | undefined): Promise<number> {
  if (number !== undefined) return Number(number);
  const { data } = await client.call('listSurveys', { params: { site }, query: { limit: 1 } });
  const [newest] = data.items;
  if (!newest) throw new CliError(SURVEY.noSurveys, EXIT.notFound);
  return newest.number;
}

/** Watches a survey until it is over. It goes on when nobody watches any more. */
async function watch(client: ApiClient, site: string, number: number): Promise<SurveyResource> {
  const progress = new Progress();
  const abort = new AbortController();
  process.once('SIGINT', () => abort.abort());
  let last: SurveyResource | undefined;
  try {
    const params = { site, survey: number };
    for await (const event of client.stream('watchSurvey', { params }, abort.signal)) {
      last = event.survey;
      progress.update(say(SURVEY.progress, { visited: last.visited, found: last.found }));
    }
  } catch (error) {
    if (!abort.signal.aborted) throw error;
  } finally {
    progress.end();
  }
  if (!last || last.state === 'waiting' || last.state === 'running')
    throw new CliError(say(SURVEY.stillGoing, { number }), EXIT.failed);
  return last;
}

/** Says how a survey ended. */
function report(survey: SurveyResource, options: SiteOptions): void {
  if (options.json) printJson(survey);
  else print(endWords(survey));
  if (survey.state === 'failed') process.exitCode = EXIT.found;
}

/** A host, with what of it was read. */
function hostWords({ host, side, isGiven }: SurveyResource): string {
  const marks = [...(side === 'origin' ? ['origin'] : []), ...(isGiven ? ['handed over'] : [])];
  return marks.length === 0 ? host : `${host} (${marks.join(', ')})`;
}

function endWords(survey: SurveyResource): string {
  const host = hostWords(survey);
  const { number, visited, unchanged, failed, problem, notes } = survey;
  const lines = notes.map((line) => `  ${colour.yellow(line)}`);
  if (survey.state === 'failed')
    return colour.red(say(SURVEY.failed, { number, host, problem: problem ?? '' }));
  if (survey.state === 'cancelled')
    return [say(SURVEY.cancelled, { number, host, visited }), ...lines].join('\n');
  const ms =
    Date.parse(survey.endedAt ?? survey.createdAt) - Date.parse(survey.startedAt ?? survey.createdAt);
  const duration = ms < 10_000 ? `${(ms / 1000).toFixed(1)} s` : `${Math.round(ms / 1000)} s`;
  return [say(SURVEY.done, { number, host, visited, unchanged, failed, duration }), ...lines].join('\n');
}
