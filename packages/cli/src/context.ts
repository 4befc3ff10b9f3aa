import { createClient, nearest, type ApiClient, type SiteResource } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { Option, type Command } from 'commander';
import { FIRST_SERVER, defaultServer, readConfig } from './config.js';
import { CliError, EXIT } from './errors.js';

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
      new Option('--server <address>', 'address of the service')
        .env('PRAGMATICA_SERVER')
        .default(defaultServer()),
    )
    .option('--json', 'print the result as JSON');
}

/** Options of commands that are about one site. */
export function withSite(command: Command): Command {
  return withCommon(
    command.addOption(
      new Option('--site <key>', 'the site; may be left out while there is only one').env('PRAGMATICA_SITE'),
    ),
  );
}

/** The client for a signed-in user. */
export function clientFor({ server }: CommonOptions): ApiClient {
  const token = process.env['PRAGMATICA_TOKEN'] ?? readConfig().tokens[normalize(server)];
  return createClient({ server, token, fetch: localhostFetch });
}

/** The address as the key under which a sign-in is kept. @throws CliError when it is none */
export function normalize(server: string): string {
  if (!URL.canParse(server))
    throw new CliError(`"${server}" is not an address. Write it like ${FIRST_SERVER}.`);
  return new URL(server).origin;
}

/** Which site is meant: the one named, or the only one. @throws CliError */
export async function siteFor(client: ApiClient, { site }: SiteOptions): Promise<string> {
  if (site !== undefined) return site;
  const { items } = (await client.call('listSites', {})).data;
  if (items.length === 1) return items[0]!.key;
  if (items.length === 0)
    throw new CliError('There is no site yet. Add one with "pragmatica site add".', EXIT.notFound);
  throw new CliError(
    `Which site? Say --site with one of: ${items.map((item: SiteResource) => item.key).join(', ')}.`,
  );
}

/** Checks that a snippet exists and suggests a near one when it does not. */
export async function assertSnippet(client: ApiClient, site: string, snippet: string): Promise<void> {
  const { items } = (await client.call('listSnippets', { params: { site } })).data;
  const keys = items.map((item) => item.key);
  if (keys.includes(snippet)) return;
  const near = nearest(snippet, keys);
  const hint =
    near === undefined ? `Known are: ${keys.join(', ') || 'none yet'}.` : `Did you mean "${near}"?`;
  throw new CliError(`The site "${site}" has no snippet "${snippet}". ${hint}`, EXIT.notFound);
}
