import { emOf } from './em.js';
import { MemberEntity, RecoveryCodeEntity } from './entities/index.js';
import type { Member } from './rows.js';
import type { Store } from './store.js';

type Whose = Pick<Member, 'id'>;

/**
 * Keeps the secret of a member’s authenticator, or none; saved with the unit of work.
 *
 * @param sealed - null for none
 * @param step - of the code that proved it, which is used up
 */
export function setSecondFactor(member: Member, sealed: string | null, step: number | null): void {
  Object.assign(member, { secondFactor: sealed, secondFactorStep: step });
}

/** Writes down that a code of a time step was used. @returns whether none of it, or of a later one, was used before */
export async function useStep(store: Store, { id }: Whose, step: number): Promise<boolean> {
  const isFree = { $or: [{ secondFactorStep: null }, { secondFactorStep: { $lt: step } }] };
  return (await emOf(store).nativeUpdate(MemberEntity, { id, ...isFree }, { secondFactorStep: step })) > 0;
}

/** Gives a member these recovery codes in place of all others. @param hashes - SHA-256 of each */
export async function replaceRecoveryCodes(
  store: Store,
  { id }: Whose,
  hashes: readonly string[],
): Promise<void> {
  const em = emOf(store);
  await em.nativeDelete(RecoveryCodeEntity, { member: id });
  if (hashes.length > 0)
    await em.insertMany(
      RecoveryCodeEntity,
      hashes.map((hash) => ({ member: id, hash })),
    );
}

/** Uses a recovery code up. @returns whether there was one */
export async function useRecoveryCode(store: Store, { id }: Whose, hash: string): Promise<boolean> {
  return (await emOf(store).nativeDelete(RecoveryCodeEntity, { member: id, hash })) > 0;
}

export async function countRecoveryCodes(store: Store, { id }: Whose): Promise<number> {
  return emOf(store).count(RecoveryCodeEntity, { member: id });
}
