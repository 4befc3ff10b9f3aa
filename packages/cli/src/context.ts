import { listAllSites, ApiError, createClient, nearest, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { Option, type Command } from 'commander';
import { confirming } from './confirming.js';
import { FIRST_SERVER, defaultServer, readConfig } from './config.js';
import { CliError, EXIT, describeError } from './errors.js';
import { colour, note, print } from './output.js';
import { COMMON } from './texts/common.js';
import { SPOKEN, say } from './texts/say.js';

export interface CommonOptions {
  readonly server: string;
  readonly json?: boolean;
}

export interface SiteOptions extends CommonOptions {
  readonly site?: string;
}

/** Options that every command has. */
export function withCommon(command: Command): Command {
  return command
    .addOption(
      new Option('--server <address>', COMMON.addressService)
        .env('PRAGMATICA_SERVER')
        .default(defaultServer()),
    )
    .option('--json', COMMON.printResultJson);
}

export interface SitesOptions extends CommonOptions {
  readonly site?: string[];
  readonly allSites?: boolean;
}

/** Options that say which sites are meant. */
export function withSites(command: Command): Command {
  return withCommon(
    command
      .addOption(
        new Option('--site <site>', COMMON.siteSeveralCommas)
          .env('PRAGMATICA_SITE')
          .argParser((typed: string, before?: string[]) => [...(before ?? []), ...typed.split(',')]),
      )
      .option('--all-sites', COMMON.everySiteOne),
  );
}

/** Options of commands that do one thing with a site. For several sites it is done with each, whatever becomes of one. */
export function withSite(command: Command): Command {
  withSites(command);
  const register = command.action.bind(command);
  command.action = (handler) =>
    register(async (...args: unknown[]) => {
      const options = args.at(-2) as SitesOptions;
      const { site: named, allSites, ...rest } = options;
      const run = (site: string | undefined): unknown =>
        handler.call(
          command,
          ...args.slice(0, -2),
          { ...rest, ...(site === undefined ? {} : { site }) },
          args.at(-1),
        );
      const sites = allSites ? await sitesFor(clientFor(options), options) : [...new Set(named)];
      if (sites.length < 2) await run(sites[0]);
      else await forEach(sites, run, options);
    });
  return command;
}

async function forEach(
  sites: readonly string[],
  run: (site: string) => unknown,
  { json }: CommonOptions,
): Promise<void> {
  let worst: number | string = EXIT.done;
  for (const site of sites) {
    if (!json) print(`${site === sites[0] ? '' : '\n'}${colour.bold(`— ${site} —`)}`);
    process.exitCode = EXIT.done;
    try {
      await run(site);
    } catch (error) {
      const { line, exitCode } = describeError(error);
      // Where several are published, one that has nothing new is no failure.
      const isIdle = error instanceof ApiError && error.problem.type.endsWith('nothing-to-publish');
      note(isIdle ? colour.dim(line) : colour.red(`${site}: ${line}`));
      process.exitCode = isIdle ? EXIT.done : exitCode;
    }
    // What was done with the others counts no less: the last status that was none is told.
    if (process.exitCode !== EXIT.done) worst = process.exitCode;
  }
  process.exitCode = worst;
}

/** Which sites are meant, in the order in which they are named. @throws CliError */
export async function sitesFor(
  client: ApiClient,
  { site, allSites, ...rest }: SitesOptions,
): Promise<string[]> {
  if (!allSites) return site ? [...new Set(site)] : [await siteFor(client, rest)];
  const sites = await listAllSites(client);
  if (sites.length === 0) throw new CliError(COMMON.thereNoSite, EXIT.notFound);
  return sites.map(({ key }) => key);
}

/** The client for a signed-in user. */
export function clientFor({ server }: CommonOptions): ApiClient {
  const token = process.env['PRAGMATICA_TOKEN'] ?? readConfig().tokens[normalize(server)];
  return confirming(createClient({ server, token, locale: SPOKEN, fetch: localhostFetch }));
}

/** The address as the key under which a sign-in is kept. @throws CliError when it is none */
export function normalize(server: string): string {
  if (!URL.canParse(server))
    throw new CliError(say(COMMON.serverNotAddress, { server, firstServer: FIRST_SERVER }));
  return new URL(server).origin;
}

/** So many sites are named to choose from. */
const NAMED = 20;

/** Which site is meant: the one named, or the only one. @throws CliError */
export async function siteFor(client: ApiClient, { site }: SiteOptions): Promise<string> {
  if (site !== undefined) return site;
  const { items, counts } = (await client.call('listSites', { query: { limit: NAMED } })).data;
  if (items.length === 1) return items[0]!.key;
  if (items.length === 0) throw new CliError(COMMON.thereNoSiteYet, EXIT.notFound);
  const keys = items.map(({ key }) => key).sort();
  const more = counts.all > keys.length ? ` and ${counts.all - keys.length} more` : '';
  throw new CliError(say(COMMON.whichSiteSay, { keys: keys.join(', '), more }));
}

/** Checks that a snippet exists and suggests a near one when it does not. */
export async function assertSnippet(client: ApiClient, site: string, snippet: string): Promise<void> {
  try {
    await client.call('showSnippet', { params: { site, snippet } });
    return;
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 404) throw error;
  }
  const { items } = (await client.call('listSnippets', { params: { site } })).data;
  const keys = items.map((item) => item.key);
  const near = nearest(snippet, keys);
  const hint =
    near === undefined
      ? say(COMMON.knownAre, { known: keys.join(', ') || COMMON.noneYet })
      : say(COMMON.didYouMeanNear, { near });
  throw new CliError(say(COMMON.siteSiteHas, { site, snippet, hint }), EXIT.notFound);
}
