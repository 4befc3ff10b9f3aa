import { accessOf, NO_ACCESS, type Access, type Membership } from '@pragmatica/core';
import { rolesAndLimits, rolesOf } from '../storage/memberships.js';
import type { Credential, Member } from '../storage/rows.js';
import type { Store } from '../storage/store.js';

/** What whoever asks may do, as it is now: what was taken from a member counts from the next request on. */
export async function findAccess(store: Store, credential: Credential | undefined): Promise<Access> {
  if (!credential) return NO_ACCESS;
  const { member } = credential;
  const isLimited = credential.role !== null || !credential.isForAllSites;
  if (member.role === 'own' && !isLimited) return accessOf({ everywhere: 'own', sites: [] });
  const { roles, limits } = await rolesAndLimits(store, member, credential);
  const membership: Membership = { everywhere: member.role ?? null, sites: roles };
  if (!isLimited) return accessOf(membership);
  return accessOf(membership, {
    role: credential.role ?? 'own',
    sites: credential.isForAllSites ? null : limits,
  });
}

/** What a member may do in person. */
export async function accessOfMember(store: Store, member: Member): Promise<Access> {
  return accessOf({ everywhere: member.role ?? null, sites: await rolesOf(store, [member.id]) });
}
