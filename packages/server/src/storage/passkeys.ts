import { emOf } from './em.js';
import { PasskeyEntity } from './entities/index.js';
import type { Member, Passkey } from './rows.js';
import type { Store } from './store.js';

/** A member's passkeys, the oldest first. */
export async function passkeysOf(store: Store, { id }: Pick<Member, 'id'>): Promise<readonly Passkey[]> {
  return emOf(store).find(PasskeyEntity, { member: id }, { orderBy: { id: 'asc' }, populate: ['member'] });
}

/** With its member. @param credentialId - base64url */
export async function passkeyByCredential(store: Store, credentialId: string): Promise<Passkey | undefined> {
  return (await emOf(store).findOne(PasskeyEntity, { credentialId }, { populate: ['member'] })) ?? undefined;
}

/** Adds a passkey to the unit of work. */
export function insertPasskey(
  store: Store,
  passkey: Omit<Passkey, 'id' | 'createdAt' | 'lastUsedAt'>,
): Passkey {
  const values = { ...passkey, createdAt: new Date(), lastUsedAt: null };
  return emOf(store).create(PasskeyEntity, values, { persist: true });
}

/** Writes down that a passkey has signed now, and its counter. */
export async function notePasskeyUse(
  store: Store,
  { id }: Pick<Passkey, 'id'>,
  counter: number,
): Promise<void> {
  await emOf(store).nativeUpdate(PasskeyEntity, { id }, { counter, lastUsedAt: new Date() });
}

/** @returns whether there was one */
export async function removePasskeyOf(
  store: Store,
  member: Pick<Member, 'id'>,
  id: number,
): Promise<boolean> {
  return (await emOf(store).nativeDelete(PasskeyEntity, { id, member: member.id })) > 0;
}

export async function removePasskeysOf(store: Store, { id }: Pick<Member, 'id'>): Promise<void> {
  await emOf(store).nativeDelete(PasskeyEntity, { member: id });
}
