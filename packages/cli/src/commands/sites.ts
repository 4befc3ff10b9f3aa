import { setTimeout } from 'node:timers/promises';
import {
  listAllSites,
  TRANSFERS,
  type ApiClient,
  type HostResource,
  type SiteInput,
  type SiteSummaryResource,
  type SiteResource,
  type Transfer,
} from '@pragmatica/contract';
import { DELIVERY_KEYS, deliveryOf, siteAddresses, type DeliveryKey } from '@pragmatica/core';
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
import { access } from './access.js';
import { addByAddress } from './add-by-address.js';
import { siteReach } from './site-reach.js';
import { siteWay, withAnswers, type AnswerOptions } from './site-way.js';
import { colour, print, printJson, table } from '../output.js';
import { SITES } from '../texts/sites.js';
import { say } from '../texts/say.js';

export function sites(program: Command): void {
  withCommon(program.command('sites'))
    .description(SITES.listSitesWhat)
    .option('--find <words>', SITES.onlyThoseThese)
    .addOption(new Option('--filter <which>', SITES.onlyThoseNeed).choices(['attention', 'unpublished']))
    .action(async (options: SitesListOptions) => {
      const items = await settledSites(clientFor(options), options);
      if (options.json) {
        printJson(items);
        return;
      }
      if (items.length === 0 && (options.find ?? options.filter) !== undefined) {
        print(SITES.noSiteFits);
        return;
      }
      if (items.length === 0) {
        print(SITES.noSitesYet);
        return;
      }
      const rows = items.map((site) => [
        colour.bold(site.key),
        site.name,
        releaseWords(site.environments.live),
        say(SITES.snippet, { on: site.snippets.on }) + ' on',
        attentionWords(site),
      ]);
      print(table(['SITE', 'NAME', 'LIVE', 'SNIPPETS', SITES.needsAttention], rows));
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
  if (isBeingChecked)
    return [...attention.map(({ message }) => message), colour.dim(SITES.beingCheckedAgain)];
  return attention.length > 0 ? attention.map(({ message }) => message) : colour.green(SITES.allWell);
}

interface AddOptions extends CommonOptions, AnswerOptions {
  readonly key?: string;
  readonly name?: string;
  readonly timeZone?: string;
  readonly live?: string[];
  readonly staging?: string[];
  readonly address?: string[];
  readonly transfer?: string[];
  readonly delivery?: string[];
}

export function site(program: Command): void {
  const group = program.command('site').description(SITES.addShowChange);
  siteReach(group);
  access(group);
  siteWay(group);
  withAnswers(withCommon(group.command('add <address>')))
    .description(SITES.addSite)
    .option('--name <name>', SITES.nameOfIt)
    .option('--key <key>', SITES.namesSiteCommands)
    .option('--time-zone <zone>', SITES.ianaTimeZone)
    .option('--live <host=origin...>', SITES.liveHostServer)
    .option('--staging <host=origin...>', SITES.stagingHostServer)
    .option('--address <host=url...>', SITES.howVisitorsReach)
    .option('--transfer <host=how...>', SITES.howPagesCome)
    .option('--delivery <host=way...>', say(SITES.wayOfHost, { ways: DELIVERY_KEYS.join(', ') }))
    .addHelpText('after', SITES.examplePragmaticaSite)
    .action(async (typed: string, options: AddOptions) => {
      const client = clientFor(options);
      if (!options.live && !options.staging && siteAddresses(typed)) {
        await addByAddress(client, typed, options);
        return;
      }
      const { key, name = typed, timeZone = 'UTC' } = options;
      const body = { key, name, timeZone, hosts: readHosts(options) };
      const { data } = await client.call('createSite', { body });
      if (options.json) printJson(data);
      else print(say(SITES.addedSiteKey, { key: data.key, describe: describe(data) }));
    });
  withCommon(group.command('edit <site>'))
    .description(SITES.changeSiteWorks)
    .option('--name <name>', SITES.newName)
    .option('--time-zone <zone>', SITES.ianaTimeZone)
    .option('--live <host=origin...>', SITES.allLiveHosts)
    .option('--staging <host=origin...>', SITES.allStagingHosts)
    .option('--address <host=url...>', SITES.howVisitorsReach)
    .option('--transfer <host=how...>', SITES.howPagesCome)
    .option('--delivery <host=way...>', say(SITES.wayOfHost, { ways: DELIVERY_KEYS.join(', ') }))
    .action(
      async (key: string, options: CommonOptions & HostOptions & { name?: string; timeZone?: string }) => {
        const { name, timeZone } = options;
        const isNew = Boolean(options.live ?? options.staging);
        const isEdited = Boolean(options.address ?? options.transfer ?? options.delivery);
        if (name === undefined && timeZone === undefined && !isNew && !isEdited) {
          throw new CliError(SITES.sayWhatChange);
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
  withSite(group.command('show [site]'))
    .description(SITES.showOneSite)
    .action(async (key: string | undefined, options: SiteOptions) => {
      const client = clientFor(options);
      const { data } = await client.call('showSite', {
        params: { site: await siteFor(client, { ...options, site: key ?? options.site }) },
      });
      if (options.json) printJson(data);
      else print(describe(data));
    });
}

type HostOptions = Pick<AddOptions, 'live' | 'staging' | 'address' | 'transfer' | 'delivery'>;

function readHosts({ live = [], staging = [], ...settings }: HostOptions): SiteInput['hosts'] {
  const { addresses, transfers, deliveries } = readHostSettings(settings);
  const parse = (environment: 'live' | 'staging') => (typed: string) => {
    // What the gateway does not deliver has no server that has to be named.
    const [host, origin] = deliveries.has(typed) ? [typed, ''] : splitHost(typed, 'ORIGIN');
    return {
      ...{ host, origin, environment, address: addresses.get(host) ?? null },
      ...{ transfer: transfers.get(host), delivery: deliveries.get(host) },
    };
  };
  return [...live.map(parse('live')), ...staging.map(parse('staging'))];
}

interface HostSettings {
  readonly addresses: ReadonlyMap<string, string>;
  readonly transfers: ReadonlyMap<string, Transfer>;
  readonly deliveries: ReadonlyMap<string, DeliveryKey>;
}

function readHostSettings({
  address = [],
  transfer = [],
  delivery = [],
}: Pick<HostOptions, 'address' | 'transfer' | 'delivery'>): HostSettings {
  return {
    addresses: new Map(address.map((typed) => splitHost(typed, 'ADDRESS'))),
    transfers: new Map(transfer.map((typed) => oneOf(TRANSFERS, '--transfer', splitHost(typed, 'HOW')))),
    deliveries: new Map(delivery.map((typed) => oneOf(DELIVERY_KEYS, '--delivery', splitHost(typed, 'WAY')))),
  };
}

/** The hosts that a site has, with what is said of some of them. */
function editHosts({ key, hosts }: SiteResource, options: HostOptions): SiteInput['hosts'] {
  const { addresses, transfers, deliveries } = readHostSettings(options);
  const known = hosts.map(({ host }) => host);
  const named = [addresses, transfers, deliveries].flatMap((settings) => [...settings.keys()]);
  const unknown = named.find((host) => !known.includes(host));
  if (unknown !== undefined)
    throw new CliError(say(SITES.siteKeyHasNo, { key, unknown, known: known.join(', ') }));
  return hosts.map((one) => ({
    ...one,
    address: addresses.get(one.host) ?? one.address,
    transfer: transfers.get(one.host) ?? one.transfer,
    delivery: deliveries.get(one.host) ?? one.delivery,
  }));
}

function splitHost(typed: string, what: 'ORIGIN' | 'ADDRESS' | 'HOW' | 'WAY'): [string, string] {
  const [host, value] = typed.split(/=(.*)/s);
  if (!host || !value) {
    throw new CliError(say(SITES.writeHostAs, { part: what, typed }));
  }
  return [host, value];
}

function oneOf<T extends string>(
  values: readonly T[],
  option: string,
  [host, typed]: readonly [string, string],
): [string, T] {
  const value = values.find((one) => one === typed);
  if (!value) throw new CliError(say(SITES.writeOneOf, { option, host, values: values.join(', ') }));
  return [host, value];
}

/** Where visitors reach a host, and how its pages get their parts. */
function hostWords({ host, address, origin, transfer, delivery }: HostResource): string {
  const where = address ?? `http://${host}`;
  if (delivery !== 'gateway') return `${where}  by  ${deliveryOf(delivery).name}`;
  return `${where}  from  ${origin}${transfer === 'auto' ? '' : `, ${transfer}`}`;
}

function describe(data: SiteResource): string {
  const lines: [string, string][] = [
    [SITES.site, `${data.name} (${data.key})`],
    [SITES.timeZone, data.timeZone],
    ...data.hosts.map((host): [string, string] => [`${host.environment} host`, hostWords(host)]),
    [SITES.liveServes, releaseWords(data.environments.live)],
    [SITES.stagingServes, releaseWords(data.environments.staging)],
    [SITES.snippets, `${data.snippets.on} on, ${data.snippets.off} off, ${data.snippets.archived} archived`],
    ...data.attention.map((entry): [string, string] => [SITES.attention, colour.yellow(entry.message)]),
  ];
  return lines.map(([label, value]) => `${colour.dim(label.padEnd(14))} ${value}`).join('\n');
}

function releaseWords(release: number | null | undefined): string {
  return release === null || release === undefined ? SITES.nothingPublished : `release ${release}`;
}
