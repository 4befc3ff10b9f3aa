import { setTimeout } from 'node:timers/promises';
import {
  listAllSites,
  TRANSFERS,
  type ApiClient,
  type SiteInput,
  type SiteSummaryResource,
  type SiteResource,
  type Transfer,
} from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import {
  clientFor,
  siteFor,
  withCommon,
  withSite,
  type CommonOptions,
  type SiteOptions,
} from '../context.js';
import { CliError } from '../errors.js';
import { siteReach } from './site-reach.js';
import { colour, count, print, printJson, table } from '../output.js';

export function sites(program: Command): void {
  withCommon(program.command('sites'))
    .description('list sites and what needs attention, those that need it most first')
    .option('--find <words>', 'only those with these words in key, name or hosts')
    .addOption(
      new Option(
        '--filter <which>',
        'only those that need attention, or have changes that are not live',
      ).choices(['attention', 'unpublished']),
    )
    .action(async (options: SitesListOptions) => {
      const items = await settledSites(clientFor(options), options);
      if (options.json) {
        printJson(items);
        return;
      }
      if (items.length === 0 && (options.find ?? options.filter) !== undefined) {
        print('No site fits.');
        return;
      }
      if (items.length === 0) {
        print(
          'No sites yet. Add one with: pragmatica site add "My site" --live www.example.com=http://origin.example',
        );
        return;
      }
      const rows = items.map((site) => [
        colour.bold(site.key),
        site.name,
        releaseWords(site.environments.live),
        count(site.snippets.on, 'snippet') + ' on',
        attentionWords(site),
      ]);
      print(table(['SITE', 'NAME', 'LIVE', 'SNIPPETS', 'NEEDS ATTENTION'], rows));
    });
}

interface SitesListOptions extends CommonOptions {
  readonly find?: string;
  readonly filter?: 'attention' | 'unpublished';
}

/** What was changed a moment ago is waited for so long. */
const SETTLED_MS = 5_000;
const ASKED_AGAIN_MS = 150;

/** Sites as they are after the last change, as far as that is known soon. */
async function settledSites(
  client: ApiClient,
  { find, filter }: SitesListOptions,
): Promise<SiteSummaryResource[]> {
  const until = Date.now() + SETTLED_MS;
  for (;;) {
    const items = await listAllSites(client, { q: find, filter });
    if (!items.some(({ isBeingChecked }) => isBeingChecked) || Date.now() > until) return items;
    await setTimeout(ASKED_AGAIN_MS);
  }
}

function attentionWords({ attention, isBeingChecked }: SiteSummaryResource): string | string[] {
  if (isBeingChecked) return [...attention.map(({ message }) => message), colour.dim('being checked again…')];
  return attention.length > 0 ? attention.map(({ message }) => message) : colour.green('all is well');
}

interface AddOptions extends CommonOptions {
  readonly key?: string;
  readonly timeZone: string;
  readonly live?: string[];
  readonly staging?: string[];
  readonly address?: string[];
  readonly transfer?: string[];
}

export function site(program: Command): void {
  const group = program.command('site').description('add, show or change a site');
  siteReach(group);
  withCommon(group.command('add <name>'))
    .description('add a site')
    .option('--key <key>', 'names the site in commands; made from the name when left out')
    .option('--time-zone <zone>', 'IANA time zone', 'UTC')
    .option('--live <host=origin...>', 'a live host and the server that holds its pages')
    .option('--staging <host=origin...>', 'a staging host and its server')
    .option('--address <host=url...>', 'how visitors reach a host, when it is not http://HOST')
    .option(
      '--transfer <host=how...>',
      'how pages come from its server: plain, compressed, or auto (plain from near ones), which is the default',
    )
    .addHelpText(
      'after',
      '\nExample:\n  pragmatica site add "Tide Mill" --live www.example.com=http://origin.example:8080 --time-zone Europe/Dublin',
    )
    .action(async (name: string, options: AddOptions) => {
      const hosts = readHosts(options);
      const { data } = await clientFor(options).call('createSite', {
        body: { key: options.key, name, timeZone: options.timeZone, hosts },
      });
      if (options.json) printJson(data);
      else
        print(
          `Added the site "${data.key}".\n\n${describe(data)}\n\nNext: pragmatica snippet add --site ${data.key} --help`,
        );
    });
  withCommon(group.command('edit <key>'))
    .description('change a site; works at once. Hosts named with --live or --staging replace all that it has')
    .option('--name <name>', 'a new name')
    .option('--time-zone <zone>', 'IANA time zone')
    .option('--live <host=origin...>', 'all live hosts')
    .option('--staging <host=origin...>', 'all staging hosts')
    .option('--address <host=url...>', 'how visitors reach a host, when it is not http://HOST')
    .option(
      '--transfer <host=how...>',
      'how pages come from its server: plain, compressed, or auto (plain from near ones), which is the default',
    )
    .action(
      async (key: string, options: CommonOptions & HostOptions & { name?: string; timeZone?: string }) => {
        const { name, timeZone } = options;
        const isNew = Boolean(options.live ?? options.staging);
        const isEdited = Boolean(options.address ?? options.transfer);
        if (name === undefined && timeZone === undefined && !isNew && !isEdited) {
          throw new CliError(
            'Say what to change: --name, --time-zone, the hosts with --live and --staging, or of a host --address or --transfer.',
          );
        }
        const client = clientFor(options);
        const { data: site, etag } = await client.call('showSite', { params: { site: key } });
        const hosts = isNew ? readHosts(options) : isEdited ? editHosts(site, options) : undefined;
        const { data } = await client.call('editSite', {
          params: { site: key },
          ifMatch: etag,
          body: { name, timeZone, hosts },
        });
        if (options.json) printJson(data);
        else print(describe(data));
      },
    );
  withSite(group.command('show [key]'))
    .description('show one site')
    .action(async (key: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const { data } = await client.call('showSite', {
        params: { site: await siteFor(client, { ...options, site: key ?? options.site }) },
      });
      if (options.json) printJson(data);
      else print(describe(data));
    });
}

type HostOptions = Pick<AddOptions, 'live' | 'staging' | 'address' | 'transfer'>;

function readHosts({
  live = [],
  staging = [],
  address = [],
  transfer = [],
}: HostOptions): SiteInput['hosts'] {
  const { addresses, transfers } = readHostSettings({ address, transfer });
  const parse = (environment: 'live' | 'staging') => (typed: string) => {
    const [host, origin] = splitHost(typed, 'ORIGIN');
    return { host, origin, environment, address: addresses.get(host) ?? null, transfer: transfers.get(host) };
  };
  return [...live.map(parse('live')), ...staging.map(parse('staging'))];
}

function readHostSettings({ address = [], transfer = [] }: Pick<HostOptions, 'address' | 'transfer'>): {
  addresses: ReadonlyMap<string, string>;
  transfers: ReadonlyMap<string, Transfer>;
} {
  return {
    addresses: new Map(address.map((typed) => splitHost(typed, 'ADDRESS'))),
    transfers: new Map(transfer.map((typed) => readTransfer(splitHost(typed, 'HOW')))),
  };
}

/** The hosts that a site has, with what is said of some of them. */
function editHosts({ key, hosts }: SiteResource, options: HostOptions): SiteInput['hosts'] {
  const { addresses, transfers } = readHostSettings(options);
  const known = hosts.map(({ host }) => host);
  const unknown = [...addresses.keys(), ...transfers.keys()].find((host) => !known.includes(host));
  if (unknown !== undefined)
    throw new CliError(`The site ${key} has no host "${unknown}". It has: ${known.join(', ')}.`);
  return hosts.map((one) => ({
    ...one,
    address: addresses.get(one.host) ?? one.address,
    transfer: transfers.get(one.host) ?? one.transfer,
  }));
}

function splitHost(typed: string, what: 'ORIGIN' | 'ADDRESS' | 'HOW'): [string, string] {
  const [host, value] = typed.split(/=(.*)/s);
  if (!host || !value) {
    throw new CliError(
      `Write it as HOST=${what}, like www.example.com=http://origin.example; this was "${typed}".`,
    );
  }
  return [host, value];
}

function readTransfer([host, how]: [string, string]): [string, Transfer] {
  const transfer = TRANSFERS.find((one) => one === how);
  if (!transfer) throw new CliError(`Write --transfer ${host}= with one of: ${TRANSFERS.join(', ')}.`);
  return [host, transfer];
}

function describe(data: SiteResource): string {
  const lines: [string, string][] = [
    ['Site', `${data.name} (${data.key})`],
    ['Time zone', data.timeZone],
    ...data.hosts.map((host): [string, string] => [
      `${host.environment} host`,
      `${host.address ?? `http://${host.host}`}  from  ${host.origin}${host.transfer === 'auto' ? '' : `, ${host.transfer}`}`,
    ]),
    ['live serves', releaseWords(data.environments.live)],
    ['staging serves', releaseWords(data.environments.staging)],
    ['Snippets', `${data.snippets.on} on, ${data.snippets.off} off, ${data.snippets.archived} archived`],
    ...data.attention.map((entry): [string, string] => ['Attention', colour.yellow(entry.message)]),
  ];
  return lines.map(([label, value]) => `${colour.dim(label.padEnd(14))} ${value}`).join('\n');
}

function releaseWords(release: number | null | undefined): string {
  return release === null || release === undefined ? 'nothing published' : `release ${release}`;
}
