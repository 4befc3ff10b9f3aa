import type { ApiClient, HostResource, SiteResource } from '@pragmatica/contract';
import {
  deliveryTable,
  DELIVERIES,
  otherWays,
  questionWords,
  recommendWay,
  type Delivery,
  type DeliveryKey,
  type OwnerAnswers,
  type OwnerQuestion,
} from '@pragmatica/core';
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
import { colour, note, print, printJson } from '../output.js';
import { ADD_SITE } from '../texts/add-site.js';
import { say } from '../texts/say.js';

/** What somebody may be able to do, as it is written on the command line. */
const ABILITIES = {
  'site-box': 'hasSiteBox',
  domain: 'pointsDomain',
  files: 'hasFiles',
  'page-box': 'hasPageBox',
} as const satisfies Record<string, OwnerQuestion>;
type AbilityName = keyof typeof ABILITIES;
const ABILITY_NAMES = Object.keys(ABILITIES) as AbilityName[];

export interface AnswerOptions {
  readonly can?: readonly AbilityName[];
  readonly cannot?: readonly AbilityName[];
}

export function withAnswers(command: Command): Command {
  return command
    .addOption(new Option('--can <what...>', ADD_SITE.can).choices(ABILITY_NAMES))
    .addOption(new Option('--cannot <what...>', ADD_SITE.cannot).choices(ABILITY_NAMES));
}

/** Commands about the ways in which pages get their code. */
export function siteWay(group: Command): void {
  withAnswers(withSite(group.command('way [site]')))
    .description(ADD_SITE.way)
    .option('--host <host>', ADD_SITE.wayOfHost)
    .addHelpText('after', ADD_SITE.waysExamples)
    .action(
      async (key: string | undefined, options: SiteOptions & AnswerOptions & { readonly host?: string }) => {
        const client = clientFor(options);
        const site = await siteFor(client, { ...options, site: key ?? options.site });
        const { data } = await client.call('showSite', { params: { site } });
        const live = data.hosts.filter(({ environment }) => environment === 'live');
        if (live.length > 1 && options.host === undefined)
          throw new CliError(say(ADD_SITE.sayWhichHost, { hosts: live.map(({ host }) => host) }));
        const chosen = await chooseWay(options, !options.json);
        const saved = chosen.way ? await takeWay(client, data, chosen.way, options.host) : data;
        if (options.json) printJson(chosenJson(chosen));
        else await tellWay(client, saved, chosen);
      },
    );
  withCommon(group.command('ways'))
    .description(ADD_SITE.ways)
    .action((options: CommonOptions) => {
      if (options.json) printJson(DELIVERIES.map(wayJson));
      else print(DELIVERIES.map(wayWords).join('\n\n'));
    });
}

export interface ChosenWay {
  readonly way: Delivery | undefined;
  readonly because: string;
  readonly others: readonly Delivery[];
  /** What would have to be known. */
  readonly open: OwnerQuestion | undefined;
}

/** Asks what is not said yet, as far as somebody is there to answer. */
export async function chooseWay(options: AnswerOptions, mayAsk: boolean): Promise<ChosenWay> {
  const answers: { -readonly [Key in OwnerQuestion]?: boolean } = answersOf(options);
  for (;;) {
    const { ask, way, because } = recommendWay(answers);
    const open = ask !== undefined && !(mayAsk && process.stdin.isTTY) ? ask : undefined;
    if (ask === undefined || open !== undefined) return { way, because, others: otherWays(answers), open };
    const { confirm } = await import('@inquirer/prompts');
    answers[ask] = await confirm({ message: questionWords(ask), default: false });
  }
}

function answersOf({ can = [], cannot = [] }: AnswerOptions): OwnerAnswers {
  const both = can.find((one) => cannot.includes(one));
  if (both !== undefined) throw new CliError(say(ADD_SITE.bothSaid, { what: both }));
  return Object.fromEntries([
    ...can.map((one) => [ABILITIES[one], true]),
    ...cannot.map((one) => [ABILITIES[one], false]),
  ]) as OwnerAnswers;
}

/** Delivers hosts in a way. The gateway is not taken by itself: it has to know the server behind the host first. */
export async function takeWay(
  client: ApiClient,
  { key }: Pick<SiteResource, 'key'>,
  way: Delivery,
  named?: string,
): Promise<SiteResource> {
  const params = { site: key };
  const { data, etag } = await client.call('showSite', { params });
  const isMeant = ({ host, environment }: HostResource): boolean =>
    named === undefined ? environment === 'live' : host === named;
  if (way.key === 'gateway' || !data.hosts.some((one) => isMeant(one) && one.delivery !== way.key))
    return data;
  const hosts = data.hosts.map((one) => (isMeant(one) ? { ...one, delivery: way.key } : one));
  return (await client.call('editSite', { params, ifMatch: etag, body: { hosts } })).data;
}

/** Says which way it is, why, what it cannot do, and what comes next. */
export async function tellWay(
  client: ApiClient,
  { key, hosts }: SiteResource,
  { way, because, others, open }: ChosenWay,
): Promise<void> {
  if (open !== undefined) {
    note(say(ADD_SITE.toAnswer, { what: ABILITY_NAMES.join(', '), key }));
    return;
  }
  print(way ? `${colour.bold(say(ADD_SITE.take, { way: way.name }))} ${because}` : because);
  if (others.length > 0) print(say(ADD_SITE.others, { names: others.map(({ name }) => name) }));
  if (!way) return;
  const limits = deliveryTable([way]).filter(({ cells: [cell] }) => cell!.fit !== 'fully');
  if (limits.length > 0) print(`\n${ADD_SITE.limits}`);
  for (const { label, cells } of limits) print(`  ${say(ADD_SITE.limit, { label, words: cells[0]!.words })}`);
  print(`\n${await nextWords(client, key, hosts[0]?.host ?? 'HOST', way.key)}`);
}

async function nextWords(client: ApiClient, key: string, host: string, way: DeliveryKey): Promise<string> {
  switch (way) {
    case 'gateway':
      return say(ADD_SITE.nextGateway, { key, host });
    case 'line':
    case 'async-line': {
      const { data } = await client.call('showLine', { params: { site: key }, query: {} });
      return say(ADD_SITE.nextLine, { line: colour.bold(way === 'line' ? data.order : data.async) });
    }
    case 'paste':
      return say(ADD_SITE.nextPaste, { key });
    case 'folder':
      return say(ADD_SITE.nextFolder, { key });
    case 'middleware':
      return ADD_SITE.nextMiddleware;
    case 'fragments':
      return say(ADD_SITE.nextFragments, { key });
  }
}

export function chosenJson({ way, because, others, open }: ChosenWay) {
  return {
    way: way?.key ?? null,
    because,
    others: others.map(({ key }) => key),
    toAnswer: open === undefined ? null : questionWords(open),
  };
}

const MARKS = { fully: colour.green('✓'), partly: colour.yellow('–'), not: colour.red('✗') } as const;

function wayWords(way: Delivery): string {
  const rows = deliveryTable([way]).map(
    ({ label, cells: [cell] }) =>
      `  ${MARKS[cell!.fit]} ${say(ADD_SITE.limit, { label, words: cell!.words })}`,
  );
  const name = way.name[0]!.toUpperCase() + way.name.slice(1);
  return [colour.bold(name), `  ${say(ADD_SITE.needs, { needs: way.needs })}`, ...rows].join('\n');
}

function wayJson({ key, name, needs, abilities }: Delivery) {
  return { key, name, needs, abilities };
}
