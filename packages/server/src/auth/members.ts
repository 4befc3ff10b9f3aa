import type { MemberDetail, SiteMemberResource } from '@pragmatica/contract';
import { higherRole, plainChanges, type Role } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { endAll } from '../storage/credentials.js';
import {
  editMember,
  listMembers,
  lockOwners,
  removeMember,
  setPassword,
  type ListedMember,
} from '../storage/members.js';
import { membersOfSite, removeSiteRole, setSiteRole, type SiteMember } from '../storage/memberships.js';
import { mailAddressOf } from '../storage/mail-address.js';
import { removeIdentitiesOf } from '../storage/identities.js';
import { removePasskeysOf } from '../storage/passkeys.js';
import type { Member, Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { say } from '../texts/say.js';
import { hasPassword } from './password.js';
import { hasSecondFactor, removeSecondFactor } from './second-factor.js';
import { hashPassword, newOneTimePassword } from './secrets.js';

/** Everybody who may sign in. @param you - the login of whoever asks */
export async function describeMembers(store: Store, you: string): Promise<MemberDetail[]> {
  return (await listMembers(store)).map((listed) => toDetail(listed, you));
}

export interface MemberEdit {
  readonly name?: string | undefined;
  readonly role?: Role | null | undefined;
}

/** Changes a member’s name or role at all sites. @throws ServiceError 404, 409 where nobody would own the installation */
export async function changeMember(
  store: Store,
  login: string,
  edit: MemberEdit,
  actor: string,
): Promise<MemberDetail> {
  return store.transactional(async (transaction) => {
    const { member } = await findMember(transaction, login);
    const before = { [login]: said(member) };
    if (edit.role !== undefined && edit.role !== 'own') await assertOthersOwn(transaction, member);
    editMember(member, edit);
    const changes = plainChanges('member', before, { [login]: said(member) });
    audit(transaction, null, actor, 'member', () => say(AUTH_TEXTS.editedMember, { login }), changes);
    await transaction.flush();
    return toDetail(await findMember(transaction, login), actor);
  });
}

/** Removes a member; sessions and tokens end with them. @throws ServiceError 404, 409 where nobody would own the installation */
export async function dropMember(store: Store, login: string, actor: string): Promise<void> {
  await store.transactional(async (transaction) => {
    const { member } = await findMember(transaction, login);
    await assertOthersOwn(transaction, member);
    const changes = plainChanges('member', { [login]: said(member) }, {});
    audit(transaction, null, actor, 'member', () => say(AUTH_TEXTS.removedMember, { login }), changes);
    await transaction.flush();
    await removeMember(transaction, member);
  });
}

/**
 * Gives a member a one-time password. Their sessions end, and so do codes, passkeys and identities, as who lost the one has often
 * lost the others; tokens stay.
 *
 * @returns it
 * @throws ServiceError 404
 */
export async function resetPassword(store: Store, login: string, actor: string): Promise<string> {
  const password = newOneTimePassword();
  const passwordHash = await hashPassword(password);
  await store.transactional(async (transaction) => {
    const { member } = await findMember(transaction, login);
    setPassword(member, passwordHash, { mustChange: true });
    audit(transaction, null, actor, 'member', () => say(AUTH_TEXTS.resetPassword, { login }));
    await transaction.flush();
    await endAll(transaction, member, 'session');
    await removeSecondFactor(transaction, member, actor);
    await removePasskeysOf(transaction, member);
    await removeIdentitiesOf(transaction, member);
  });
  return password;
}

/** Who may see a site. @param you - the login of whoever asks */
export async function describeSiteMembers(
  store: Store,
  site: Site,
  you: string,
): Promise<SiteMemberResource[]> {
  return (await membersOfSite(store, site.id)).map((member) => toSiteMember(member, you));
}

/**
 * Gives a member another role at a site. Only those who see the site already: whoever owns one site does not learn who else
 * there is.
 *
 * @throws ServiceError 404
 */
export async function changeSiteRole(
  store: Store,
  site: Site,
  { login, role }: { readonly login: string; readonly role: Role },
  actor: string,
): Promise<SiteMemberResource> {
  const member = await findSiteMember(store, site, login);
  await setSiteRole(store, member, site.id, role);
  const changes = plainChanges('role', rolesOf(member), { [login]: { role } });
  audit(store, site, actor, 'member', () => say(AUTH_TEXTS.gaveSiteRole, { login, role }), changes);
  await store.flush();
  return toSiteMember(await findSiteMember(store, site, login), actor);
}

/** Takes a member off a site. @throws ServiceError 404, 409 where they have their role at all sites */
export async function dropSiteRole(store: Store, site: Site, login: string, actor: string): Promise<void> {
  const member = await findSiteMember(store, site, login);
  if (!(await removeSiteRole(store, member, site.id)))
    throw new ServiceError('role-is-everywhere', { name: member.name });
  const changes = plainChanges('role', rolesOf(member), {});
  audit(store, site, actor, 'member', () => say(AUTH_TEXTS.removedSiteRole, { login }), changes);
  await store.flush();
}

async function findMember(store: Store, login: string): Promise<ListedMember> {
  const [found] = await listMembers(store, login);
  if (!found) throw new ServiceError('no-such-member', { login });
  return found;
}

/** What the trail keeps of a member. */
function said({ name, role }: Member): object {
  return { name, role: role ?? null };
}

/** The role that a member has at one site, as the trail keeps it. */
function rolesOf({ login, role }: SiteMember): Record<string, object> {
  return role === null ? {} : { [login]: { role } };
}

async function findSiteMember(store: Store, site: Site, login: string): Promise<SiteMember> {
  const [found] = await membersOfSite(store, site.id, login);
  if (!found) throw new ServiceError('no-such-site-member', { login });
  return found;
}

async function assertOthersOwn(store: Store, member: Member): Promise<void> {
  if (member.role !== 'own') return;
  const owners = await lockOwners(store);
  if (!owners.some(({ id }) => id !== member.id)) throw new ServiceError('last-owner', {});
}

function toDetail(
  { member, roles, lastSeenAt, tokens, identities }: ListedMember,
  you: string,
): MemberDetail {
  const { login, name, role, mustChangePassword } = member;
  const codes = hasSecondFactor(member);
  return {
    ...{ login, name, role: role ?? null, mustChangePassword, tokens, identities },
    ...{ hasPassword: hasPassword(member), hasSecondFactor: codes },
    sites: roles.map(({ site, siteName, role: there }) => ({ site, siteName, role: there })),
    lastSeenAt: lastSeenAt?.toISOString() ?? null,
    isYou: login === you,
  };
}

function toSiteMember({ login, name, mail, role, everywhere }: SiteMember, you: string): SiteMemberResource {
  return {
    ...{ login, name },
    role: higherRole(role, everywhere)!,
    isEverywhere: everywhere !== null && higherRole(role, everywhere) === everywhere,
    canBeMailed: mailAddressOf({ login, mail }) !== null,
    isYou: login === you,
  };
}
