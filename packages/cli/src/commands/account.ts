import { text } from 'node:stream/consumers';
import { TOKEN_ROLES, deviceName, type TokenRole } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import type { ApiClient, EndpointCall, Endpoints, MemberResource } from '@pragmatica/contract';
import { keepLanguage } from '../config.js';
import { askPassword, confirm } from '../confirming.js';
import { clientFor, withCommon, type CommonOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, printProse, table, when } from '../output.js';
import { ACCOUNT } from '../texts/account.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

interface TokenOptions extends CommonOptions {
  readonly days: number;
  readonly role?: TokenRole;
  readonly onlySite?: readonly string[];
}

/** Whoever is signed in. */
export function account(program: Command): void {
  const group = program
    .command('account')
    .description(ACCOUNT.accountGroup)
    .addHelpText('after', ACCOUNT.accountExamples);
  own(group, 'mail [address]', {
    texts: { about: ACCOUNT.accountMail, none: ACCOUNT.accountNoMail, which: ACCOUNT.accountWhich },
    edit: (mail) => ({ mail }),
    words: ({ mail }) => (mail === null ? ACCOUNT.mailNowhere : say(ACCOUNT.mailTo, { mail })),
  });
  own(group, 'language [tag]', {
    texts: {
      about: ACCOUNT.accountLanguage,
      none: ACCOUNT.accountNoLanguage,
      which: ACCOUNT.accountOneLanguage,
    },
    edit: (language) => ({ language }),
    onEdited: ({ language }) => keepLanguage(language),
    words: ({ language }, client) => languageWords(client, language),
  });
}

/** Something that somebody says of themselves. */
interface OwnSaying {
  readonly texts: { readonly about: string; readonly none: string; readonly which: string };
  readonly edit: (value: string | null) => EndpointCall<Endpoints['editAccount']>['body'];
  readonly onEdited?: (member: MemberResource) => void;
  readonly words: (member: MemberResource, client: ApiClient) => string | Promise<string>;
}

/** A command that says it, takes it back, or shows it. */
function own(group: Command, name: string, { texts, edit, onEdited, words }: OwnSaying): void {
  withCommon(group.command(name))
    .description(texts.about)
    .option('--none', texts.none)
    .action(async (given: string | undefined, options: CommonOptions & { readonly none?: boolean }) => {
      const client = clientFor(options);
      if (given !== undefined && options.none) throw new CliError(texts.which, EXIT.usage);
      const isAsked = given === undefined && !options.none;
      const { data } = isAsked
        ? await client.call('showSession', {})
        : await client.call('editAccount', { body: edit(given ?? null) });
      if (!isAsked) onEdited?.(data);
      if (options.json) printJson(data);
      else printProse(await words(data, client));
    });
}

async function languageWords(client: ApiClient, chosen: string | null): Promise<string> {
  const { items } = (await client.call('listLanguages', {})).data;
  const known = items.map(({ tag, name }) => `${tag} (${name})`);
  const now =
    chosen === null
      ? ACCOUNT.languageNone
      : say(ACCOUNT.languageIs, { language: items.find(({ tag }) => tag === chosen)?.name ?? chosen });
  return `${now} ${say(ACCOUNT.languagesKnown, { known })}`;
}

/** Bearer tokens of whoever is signed in. */
export function token(program: Command): void {
  const group = program
    .command('token')
    .description(ACCOUNT.tokenGroup)
    .addHelpText('after', ACCOUNT.tokenExamples);
  withCommon(group.command('list'))
    .description(ACCOUNT.tokenList)
    .action(async (options: CommonOptions) => {
      const { items } = (await clientFor(options).call('listTokens', {})).data;
      if (options.json) printJson(items);
      else if (items.length === 0) print(ACCOUNT.noTokens);
      else
        printProse(
          table(
            [
              'TOKEN',
              ACCOUNT.headName,
              ACCOUNT.headMay,
              ACCOUNT.headMade,
              ACCOUNT.headUsed,
              ACCOUNT.headUntil,
            ],
            items.map(({ id, name, role, sites, createdAt, lastUsedAt, expiresAt }) => [
              ...[String(id), name, mayWords(role, sites), when(createdAt), usedWords(lastUsedAt)],
              Date.parse(expiresAt) < Date.now() ? colour.yellow(ACCOUNT.expired) : when(expiresAt),
            ]),
          ),
        );
    });
  withCommon(group.command('create <name>'))
    .description(ACCOUNT.tokenCreate)
    .option('--days <days>', ACCOUNT.tokenDays, wholeNumber, 365)
    .addOption(new Option('--role <role>', ACCOUNT.tokenRole).choices(TOKEN_ROLES))
    .option('--only-site <site...>', ACCOUNT.tokenSites)
    .action(async (name: string, { days, role, onlySite, ...options }: TokenOptions) => {
      const body = { name, days, role: role ?? null, sites: onlySite ? [...onlySite] : null };
      const { data } = await clientFor(options).call('createToken', { body });
      if (options.json) {
        printJson(data);
        return;
      }
      printProse(say(ACCOUNT.tokenMade, { id: data.id, name, until: when(data.expiresAt) }));
      print(`\n  ${colour.bold(data.secret)}\n`);
      printProse(ACCOUNT.tokenUse);
    });
  withCommon(group.command('revoke <token>'))
    .description(ACCOUNT.tokenRevoke)
    .action(async (typed: string, options: CommonOptions) => {
      const id = wholeNumber(typed);
      await clientFor(options).call('removeToken', { params: { token: id } });
      if (!options.json) print(say(ACCOUNT.tokenRevoked, { id }));
    });
}

/** Browsers in which whoever is signed in is signed in, too. */
export function session(program: Command): void {
  const group = program
    .command('session')
    .description(ACCOUNT.sessionGroup)
    .addHelpText('after', ACCOUNT.sessionExamples);
  withCommon(group.command('list'))
    .description(ACCOUNT.sessionList)
    .action(async (options: CommonOptions) => {
      const { items } = (await clientFor(options).call('listSessions', {})).data;
      if (options.json) printJson(items);
      else if (items.length === 0) print(ACCOUNT.noSessions);
      else
        printProse(
          table(
            ['SESSION', ACCOUNT.headDevice, ACCOUNT.headFrom, ACCOUNT.headUsed, ACCOUNT.headUntil],
            items.map(({ id, device, openedFrom, lastUsedAt, createdAt, expiresAt }) => [
              ...[String(id), device === null ? '' : deviceName(device), openedFrom ?? ''],
              ...[when(lastUsedAt ?? createdAt), when(expiresAt)],
            ]),
          ),
        );
    });
  withCommon(group.command('confirm'))
    .description(ACCOUNT.sessionConfirm)
    .option('--stdin', ACCOUNT.confirmStdin)
    .action(async (options: CommonOptions & { readonly stdin?: boolean }) => {
      const client = clientFor(options);
      const until = await confirm(
        client,
        options.stdin ? (await text(process.stdin)).trimEnd() : await askPassword(),
      );
      if (options.json) printJson({ until });
      else print(say(ACCOUNT.confirmedUntil, { until: when(until) }));
    });
  withCommon(group.command('end [session]'))
    .description(ACCOUNT.sessionEnd)
    .option('--all', ACCOUNT.sessionAll)
    .action(async (typed: string | undefined, options: CommonOptions & { readonly all?: boolean }) => {
      const client = clientFor(options);
      if ((typed === undefined) === (options.all === undefined))
        throw new CliError(ACCOUNT.sessionWhich, EXIT.usage);
      if (typed === undefined) await client.call('endOtherSessions', {});
      else await client.call('endSession', { params: { session: wholeNumber(typed) } });
      if (!options.json)
        print(typed === undefined ? ACCOUNT.sessionsEnded : say(ACCOUNT.sessionEnded, { id: typed }));
    });
}

function mayWords(role: TokenRole | null, sites: readonly string[] | null): string {
  return [role ?? ACCOUNT.mayAll, sites === null ? '' : say(ACCOUNT.mayAt, { sites })]
    .filter(Boolean)
    .join(' ');
}

function usedWords(at: string | null): string {
  return at === null ? ACCOUNT.notUsed : when(at);
}
