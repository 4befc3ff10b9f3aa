import type { IdentityAnswer, InvitationResource, OpenedInvitation } from '@pragmatica/contract';
import { higherRole, mayAt, mayEverywhere, type Access, type Role, type SiteRole } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import {
  insertInvitation,
  invitationByHash,
  openInvitations,
  removeInvitation,
  type InvitationWithRoles,
  type InvitedRole,
} from '../storage/invitations.js';
import { editMember, insertMember, memberByLogin } from '../storage/members.js';
import { rolesOf, setSiteRole } from '../storage/memberships.js';
import type { Member, Site } from '../storage/rows.js';
import { sitesByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { fieldError } from '../texts/field-errors.js';
import { say } from '../texts/say.js';
import { accessOfMember } from './access.js';
import { DAY_MS, SET_UP_LOGIN, createCredential, type Origin } from './accounts.js';
import { assertFree, assertProvider, connect } from './identities.js';
import type { IdentityProvider } from './identity-provider.js';
import { NO_PASSWORD } from './password.js';
import { hashPassword, newSecret, secretHash } from './secrets.js';

/** Who invites, and what they may do. */
export interface Inviting {
  readonly actor: string;
  readonly access: Access;
}

export interface NewInvitation {
  readonly name: string;
  /** At all sites and for the installation. */
  readonly role: Role | null;
  readonly sites: readonly SiteRole[];
  readonly days: number;
}

/**
 * Makes an invitation. Nobody invites to what is not theirs. The secret is given out here and never again.
 *
 * @throws ServiceError 403, 422
 */
export async function invite(
  store: Store,
  { name, role, sites, days }: NewInvitation,
  { actor, access }: Inviting,
): Promise<InvitationResource & { readonly path: string }> {
  if (role !== null && !mayEverywhere(access, 'own'))
    throw new ServiceError('installation-right-missing', { right: 'own' });
  const found = await sitesByKey(
    store,
    sites.map(({ site }) => site),
  );
  const roles = new Map<string, { site: Site; role: Role }>();
  for (const [index, wanted] of sites.entries()) {
    const site = mayAt(access, wanted.site, 'view') ? found.get(wanted.site) : undefined;
    if (!site) throw errorAt(`/sites/${index}/site`, 'no-such-site-named', { site: wanted.site });
    if (!mayAt(access, wanted.site, 'own')) throw new ServiceError('not-yours-to-give', { site: site.name });
    roles.set(site.key, { site, role: higherRole(roles.get(site.key)?.role ?? null, wanted.role)! });
  }
  const secret = newSecret();
  const now = Date.now();
  const values = {
    ...{ hash: secretHash(secret), name, role, createdBy: actor },
    createdAt: new Date(now),
    expiresAt: new Date(now + days * DAY_MS),
  };
  const said = (): string => say(AUTH_TEXTS.invited, { name });
  if (roles.size === 0) audit(store, null, actor, 'member', said);
  for (const { site } of roles.values()) audit(store, site, actor, 'member', said);
  const made = await insertInvitation(store, values, [...roles.values()]);
  // Behind the sign browsers send nothing: the secret is in no address that anybody logs.
  return { ...toResource(made), path: `/invitation#${secret}` };
}

/** Open invitations to what somebody owns, and of each the sites that are theirs. */
export async function listInvitations(store: Store, access: Access): Promise<InvitationResource[]> {
  return (await openInvitations(store)).flatMap(({ invitation, roles }) => {
    const own = roles.filter(({ site }) => mayAt(access, site, 'own'));
    const isAllTheirs = mayEverywhere(access, 'own');
    if (own.length === 0 && !isAllTheirs) return [];
    return [toResource({ invitation: isAllTheirs ? invitation : { ...invitation, role: null }, roles: own })];
  });
}

/** Withdraws an invitation; only those who own all that it gives. @throws ServiceError 404 */
export async function withdraw(store: Store, id: number, { actor, access }: Inviting): Promise<void> {
  const found = (await openInvitations(store)).find(({ invitation }) => invitation.id === id);
  if (!found || !mayGive(access, found)) throw new ServiceError('no-such-invitation', {});
  await removeInvitation(store, found.invitation);
  const said = (): string => say(AUTH_TEXTS.withdrewInvitation, { name: found.invitation.name });
  audit(store, null, actor, 'member', said);
  await store.flush();
}

/** What an invitation is to. @throws ServiceError 404 for a link that is over */
export async function openInvitation(store: Store, secret: string): Promise<OpenedInvitation> {
  const { invitation, roles, by } = await found(store, secret);
  return {
    ...{ name: invitation.name, by: by.name, role: invitation.role ?? null },
    sites: roles.map(({ siteName, role }) => ({ siteName, role })),
    expiresAt: invitation.expiresAt.toISOString(),
  };
}

export interface NewMember {
  readonly login: string;
  readonly name: string;
  /** One of the two: what they sign in with from then on. */
  readonly password?: string | undefined;
  readonly identity?: IdentityAnswer | undefined;
}

interface Accepting {
  readonly from: Origin;
  readonly days: number;
  readonly provider: IdentityProvider | undefined;
}

/**
 * Makes whoever has an invitation a member, and opens a session.
 *
 * @throws ServiceError 404 for a link that is over, 409 where the login or the identity is taken
 */
export async function acceptInvitation(
  store: Store,
  secret: string,
  { login, name, password, identity }: NewMember,
  { from, days, provider }: Accepting,
): Promise<{ member: Member; secret: string }> {
  await found(store, secret);
  const passwordHash = password === undefined ? NO_PASSWORD : await hashPassword(password);
  const proven = identity && (await assertProvider(provider).finish(identity));
  return store.transactional(async (transaction) => {
    const opened = await found(transaction, secret);
    if (login === SET_UP_LOGIN || (await memberByLogin(transaction, login))) {
      const errors = [fieldError('/login', 'choose-another-login', {})];
      throw new ServiceError('login-taken', { login }, { errors });
    }
    const member = insertMember(transaction, {
      ...{ login, name, passwordHash, mustChangePassword: false, role: null },
    });
    await transaction.flush();
    if (proven) {
      await assertFree(transaction, proven, provider!);
      connect(transaction, member, proven, provider!);
    }
    await give(transaction, opened, member, 'cameByInvitation');
    const made = createCredential(transaction, member, 'session', 'console', days, {
      from,
      isConfirmed: password !== undefined || proven?.isFresh === true,
    });
    await transaction.flush();
    return { member, secret: made.secret };
  });
}

/** Adds what an invitation gives to what a member may do. @throws ServiceError 404 for a link that is over */
export async function joinInvitation(
  store: Store,
  secret: string,
  login: string,
): Promise<{ readonly role: Role | null; readonly sites: string[] }> {
  return store.transactional(async (transaction) => {
    const opened = await found(transaction, secret);
    const member = (await memberByLogin(transaction, login))!;
    await give(transaction, opened, member, 'joinedByInvitation');
    await transaction.flush();
    return { role: opened.invitation.role ?? null, sites: opened.roles.map(({ site }) => site) };
  });
}

interface OpenedByLink extends InvitationWithRoles {
  readonly by: Member;
}

/** An open invitation whose maker may still give what it gives. */
async function found(store: Store, secret: string): Promise<OpenedByLink> {
  const opened = await invitationByHash(store, secretHash(secret));
  const by = opened && (await memberByLogin(store, opened.invitation.createdBy));
  if (!by || !mayGive(await accessOfMember(store, by), opened)) throw new ServiceError('invitation-over', {});
  return { ...opened, by };
}

function mayGive(access: Access, { invitation, roles }: InvitationWithRoles): boolean {
  if (mayEverywhere(access, 'own')) return true;
  return (
    (invitation.role ?? null) === null &&
    roles.length > 0 &&
    roles.every(({ site }) => mayAt(access, site, 'own'))
  );
}

/** Gives a member what an invitation gives, once. What they have already stays where it is more. */
async function give(
  store: Store,
  { invitation, roles, by }: OpenedByLink,
  member: Member,
  message: 'cameByInvitation' | 'joinedByInvitation',
): Promise<void> {
  if (!(await removeInvitation(store, invitation))) throw new ServiceError('invitation-over', {});
  const before = new Map((await rolesOf(store, [member.id])).map(({ site, role }) => [site, role]));
  editMember(member, { role: higherRole(member.role ?? null, invitation.role ?? null) });
  for (const { site, siteId, role } of roles)
    await setSiteRole(store, member, siteId, higherRole(before.get(site) ?? null, role)!);
  audit(store, null, member.login, 'member', () => say(AUTH_TEXTS[message], { by: by.name }));
}

function toResource({ invitation, roles }: InvitationWithRoles): InvitationResource {
  const { id, name, createdBy, role, createdAt, expiresAt } = invitation;
  return {
    ...{ id, name, by: createdBy, role: role ?? null },
    sites: roles.map(toNamed),
    createdAt: createdAt.toISOString(),
    expiresAt: expiresAt.toISOString(),
  };
}

function toNamed({ site, siteName, role }: InvitedRole): InvitationResource['sites'][number] {
  return { site, siteName, role };
}
