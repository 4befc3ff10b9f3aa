import type { Role } from '@pragmatica/core';
import { groupBy } from '../group-by.js';
import { emOf } from './em.js';
import { InvitationEntity, InvitedRoleEntity } from './entities/index.js';
import type { NamedSiteRole } from './memberships.js';
import type { Invitation, Site } from './rows.js';
import type { Store } from './store.js';

export interface InvitationWithRoles {
  readonly invitation: Invitation;
  readonly roles: readonly InvitedRole[];
}

/** A role at a site that an invitation gives. */
export interface InvitedRole extends NamedSiteRole {
  readonly siteId: number;
}

/** Keeps an invitation. @param values - its hash is the SHA-256 of its secret */
export async function insertInvitation(
  store: Store,
  values: Omit<Invitation, 'id'>,
  roles: readonly { readonly site: Site; readonly role: Role }[],
): Promise<InvitationWithRoles> {
  const em = emOf(store);
  const invitation = em.create(InvitationEntity, values, { persist: true });
  for (const { site, role } of roles)
    em.create(InvitedRoleEntity, { invitation, site: site.id, role }, { persist: true });
  await em.flush();
  return { invitation, roles: roles.map(({ site, role }) => toRole(site, role)) };
}

/** Invitations that are still open, the newest first. Two queries. */
export async function openInvitations(store: Store): Promise<InvitationWithRoles[]> {
  const em = emOf(store);
  const open = { expiresAt: { $gt: new Date() } };
  return withRoles(store, await em.find(InvitationEntity, open, { orderBy: { id: 'desc' } }));
}

/** @param hash - SHA-256 of its secret @returns undefined for one that has run out, too */
export async function invitationByHash(store: Store, hash: string): Promise<InvitationWithRoles | undefined> {
  const open = { hash, expiresAt: { $gt: new Date() } };
  const found = await emOf(store).findOne(InvitationEntity, open);
  return found ? (await withRoles(store, [found]))[0] : undefined;
}

/** @returns whether it was there: of several who take it at once one gets it */
export async function removeInvitation(store: Store, { id }: Pick<Invitation, 'id'>): Promise<boolean> {
  return (await emOf(store).nativeDelete(InvitationEntity, { id })) > 0;
}

/** Removes what has run out. @returns how many */
export async function removeOldInvitations(store: Store): Promise<number> {
  return emOf(store).nativeDelete(InvitationEntity, { expiresAt: { $lt: new Date() } });
}

async function withRoles(store: Store, invitations: readonly Invitation[]): Promise<InvitationWithRoles[]> {
  const rows = await emOf(store).find(
    InvitedRoleEntity,
    { invitation: { $in: invitations.map(({ id }) => id) } },
    { populate: ['site'], orderBy: { site: { name: 'asc' } } },
  );
  const roles = groupBy(rows, ({ invitation }) => invitation.id);
  return invitations.map((invitation) => ({
    invitation,
    roles: (roles.get(invitation.id) ?? []).map(({ site, role }) => toRole(site, role)),
  }));
}

function toRole({ id, key, name }: Site, role: Role): InvitedRole {
  return { siteId: id, site: key, siteName: name, role };
}
