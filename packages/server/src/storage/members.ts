import { emOf } from './em.js';
import { MemberEntity } from './entities/index.js';
import type { Member } from './rows.js';
import type { Store } from './store.js';

/** @returns undefined where nobody has this login */
export async function memberByLogin(store: Store, login: string): Promise<Member | undefined> {
  return (await emOf(store).findOne(MemberEntity, { login })) ?? undefined;
}

/** Adds a member to the unit of work. */
export function insertMember(
  store: Store,
  member: Pick<Member, 'login' | 'name' | 'passwordHash' | 'mustChangePassword'>,
): Member {
  return emOf(store).create(MemberEntity, { ...member, createdAt: new Date() }, { persist: true });
}

/** Gives a member another password; saved with the unit of work. */
export function setPassword(
  member: Member,
  passwordHash: string,
  { mustChange }: { readonly mustChange: boolean },
): void {
  Object.assign(member, { passwordHash, mustChangePassword: mustChange });
}
