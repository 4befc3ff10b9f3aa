import { emOf } from './em.js';
import { IdentityEntity } from './entities/index.js';
import type { Identity, Member } from './rows.js';
import type { Store } from './store.js';

/** A member's identities, the oldest first. */
export async function identitiesOf(store: Store, { id }: Pick<Member, 'id'>): Promise<readonly Identity[]> {
  return emOf(store).find(IdentityEntity, { member: id }, { orderBy: { id: 'asc' }, populate: ['member'] });
}

/** With its member. @param key - who they are at whom */
export async function identityBySubject(
  store: Store,
  { issuer, subject }: Pick<Identity, 'issuer' | 'subject'>,
): Promise<Identity | undefined> {
  return (
    (await emOf(store).findOne(IdentityEntity, { issuer, subject }, { populate: ['member'] })) ?? undefined
  );
}

/** Adds an identity to the unit of work. */
export function insertIdentity(
  store: Store,
  identity: Pick<Identity, 'member' | 'issuer' | 'subject' | 'name'>,
): Identity {
  const values = { ...identity, createdAt: new Date(), lastUsedAt: null };
  return emOf(store).create(IdentityEntity, values, { persist: true });
}

/** Writes down that somebody has signed in by it now, and what it is called by now. */
export async function noteIdentityUse(
  store: Store,
  { id }: Pick<Identity, 'id'>,
  name: string,
): Promise<void> {
  await emOf(store).nativeUpdate(IdentityEntity, { id }, { name, lastUsedAt: new Date() });
}

/** @returns whether there was one */
export async function removeIdentityOf(
  store: Store,
  member: Pick<Member, 'id'>,
  id: number,
): Promise<boolean> {
  return (await emOf(store).nativeDelete(IdentityEntity, { id, member: member.id })) > 0;
}

export async function removeIdentitiesOf(store: Store, { id }: Pick<Member, 'id'>): Promise<void> {
  await emOf(store).nativeDelete(IdentityEntity, { member: id });
}
