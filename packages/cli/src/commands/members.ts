import type { InvitationResource } from '@pragmatica/contract';
import { ROLES, type Role, type SiteRole } from '@pragmatica/core';
import { Argument, Option, type Command } from 'commander';
import { askFirst } from '../ask-first.js';
import { clientFor, normalize, withCommon, type CommonOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, printProse, table, when } from '../output.js';
import { MEMBERS } from '../texts/members.js';
import { say } from '../texts/say.js';
import { wholeNumber } from '../whole-number.js';

type OfSite = CommonOptions & { readonly site?: string };

interface InviteOptions extends CommonOptions {
  readonly at?: readonly SiteRole[];
  readonly everywhere?: Role;
  readonly days: number;
}

/** Who may do what, and how somebody comes to it. */
export function member(program: Command): void {
  const group = program.command('member').description(MEMBERS.group).addHelpText('after', MEMBERS.examples);
  list(group);
  invitations(group);
  changes(group);
}

function list(group: Command): void {
  withCommon(group.command('list'))
    .description(MEMBERS.list)
    .option('--site <site>', MEMBERS.ofSite)
    .action(async ({ site, ...options }: OfSite) => {
      if (site === undefined) await listAll(options);
      else await listOfSite(site, options);
    });
}

async function listAll(options: CommonOptions): Promise<void> {
  const { items } = (await clientFor(options).call('listMembers', {})).data;
  if (options.json) {
    printJson(items);
    return;
  }
  const rows = items.map(({ login, name, role, sites, lastSeenAt, isYou }) => [
    ...[isYou ? say(MEMBERS.you, { login }) : login, name, role ?? ''],
    sites.map((at) => `${at.site} ${at.role}`).join(', '),
    lastSeenAt === null ? MEMBERS.never : when(lastSeenAt),
  ]);
  printProse(table(['LOGIN', MEMBERS.headName, MEMBERS.headRole, MEMBERS.headSites, MEMBERS.headSeen], rows));
}

async function listOfSite(site: string, options: CommonOptions): Promise<void> {
  const { items } = (await clientFor(options).call('listSiteMembers', { params: { site } })).data;
  if (options.json) {
    printJson(items);
    return;
  }
  const rows = items.map(({ login, name, role, isEverywhere, isYou }) => [
    ...[isYou ? say(MEMBERS.you, { login }) : login, name, role],
    isEverywhere ? MEMBERS.fromEverywhere : MEMBERS.fromHere,
  ]);
  printProse(table(['LOGIN', MEMBERS.headName, MEMBERS.headRoleHere, MEMBERS.headFrom], rows));
}

function invitations(group: Command): void {
  withCommon(group.command('invite <name>'))
    .description(MEMBERS.invite)
    .option('--at <site=role>', MEMBERS.at, (typed: string, before?: readonly SiteRole[]) => [
      ...(before ?? []),
      siteRole(typed),
    ])
    .addOption(new Option('--everywhere <role>', MEMBERS.everywhere).choices(ROLES))
    .option('--days <days>', MEMBERS.days, wholeNumber, 7)
    .action(async (name: string, { at = [], everywhere, days, ...options }: InviteOptions) => {
      if (at.length === 0 && everywhere === undefined) throw new CliError(MEMBERS.toWhat, EXIT.usage);
      const body = { name, sites: [...at], role: everywhere ?? null, days };
      const { data } = await clientFor(options).call('createInvitation', { body });
      const address = new URL(data.path, normalize(options.server)).href;
      if (options.json) printJson({ ...data, address });
      else {
        printProse(say(MEMBERS.invited, { name, until: when(data.expiresAt) }));
        print(`\n  ${colour.bold(address)}`);
      }
    });
  withCommon(group.command('invitations'))
    .description(MEMBERS.invitations)
    .action(async (options: CommonOptions) => {
      const { items } = (await clientFor(options).call('listInvitations', {})).data;
      if (options.json) printJson(items);
      else if (items.length === 0) print(MEMBERS.noInvitations);
      else {
        const head = ['ID', MEMBERS.headName, MEMBERS.headTo, MEMBERS.headBy, MEMBERS.headUntil];
        const rows = items.map((one) => [
          ...[String(one.id), one.name, toWords(one), one.by, when(one.expiresAt)],
        ]);
        printProse(table(head, rows));
      }
    });
  withCommon(group.command('withdraw <id>'))
    .description(MEMBERS.withdraw)
    .action(async (typed: string, options: CommonOptions) => {
      const id = wholeNumber(typed);
      await clientFor(options).call('endInvitation', { params: { invitation: id } });
      if (!options.json) print(say(MEMBERS.withdrawn, { id }));
    });
}

function changes(group: Command): void {
  withCommon(group.command('role <login>'))
    .description(MEMBERS.role)
    .addArgument(new Argument('<role>').choices([...ROLES, 'none']))
    .option('--site <site>', MEMBERS.atSite)
    .action(async (login: string, typed: Role | 'none', { site, ...options }: OfSite) => {
      const client = clientFor(options);
      const role = typed === 'none' ? null : typed;
      if (site === undefined) await client.call('editMember', { params: { member: login }, body: { role } });
      else {
        const params = { site, member: login };
        if (role === null) await client.call('removeSiteRole', { params });
        else await client.call('setSiteRole', { params, body: { role } });
      }
      if (options.json) return;
      const at = site ?? 'none';
      print(
        role === null
          ? say(MEMBERS.roleTaken, { login, at })
          : say(MEMBERS.roleGiven, { name: login, role, at }),
      );
    });
  withCommon(group.command('rename <login> <name>'))
    .description(MEMBERS.rename)
    .action(async (login: string, name: string, options: CommonOptions) => {
      await clientFor(options).call('editMember', { params: { member: login }, body: { name } });
      if (!options.json) print(say(MEMBERS.renamed, { login, name }));
    });
  withCommon(group.command('password <login>'))
    .description(MEMBERS.password)
    .action(async (login: string, options: CommonOptions) => {
      const { data } = await clientFor(options).call('resetPassword', { params: { member: login } });
      if (options.json) printJson(data);
      else print(`${say(MEMBERS.passwordMade, { login })}\n\n  ${colour.bold(data.password)}`);
    });
  withCommon(group.command('remove <login>'))
    .description(MEMBERS.remove)
    .option('-y, --yes', MEMBERS.removeYes)
    .action(async (login: string, options: CommonOptions & { readonly yes?: boolean }) => {
      await askFirst({
        yes: options.yes,
        message: say(MEMBERS.removeQuestion, { login }),
        unasked: say(MEMBERS.removeAsk, { login }),
        left: MEMBERS.nothingRemoved,
      });
      await clientFor(options).call('removeMember', { params: { member: login } });
      if (!options.json) print(say(MEMBERS.removed, { login }));
    });
}

/** `skerrywick=edit`. @throws CliError */
function siteRole(typed: string): SiteRole {
  const [site = '', role = ''] = typed.split('=');
  const found = ROLES.find((one) => one === role);
  if (site === '' || !found) throw new CliError(say(MEMBERS.atForm, { roles: ROLES.join(', ') }), EXIT.usage);
  return { site, role: found };
}

function toWords({ role, sites }: InvitationResource): string {
  return [
    ...(role === null ? [] : [say(MEMBERS.everyone, { role })]),
    ...sites.map((at) => `${at.site}: ${at.role}`),
  ].join(', ');
}
