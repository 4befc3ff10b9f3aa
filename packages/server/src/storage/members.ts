import { LockMode } from '@mikro-orm/postgresql';
import { groupBy } from '../group-by.js';
import { emOf } from './em.js';
import { MemberEntity } from './entities/index.js';
import { rolesOf, type NamedSiteRole } from './memberships.js';
import type { Member } from './rows.js';
import type { Store } from './store.js';

/** @returns undefined where nobody has this login */
export async function memberByLogin(store: Store, login: string): Promise<Member | undefined> {
  return (await emOf(store).findOne(MemberEntity, { login })) ?? undefined;
}

/** Adds a member to the unit of work. */
export function insertMember(
  store: Store,
  member: Pick<Member, 'login' | 'name' | 'passwordHash' | 'mustChangePassword' | 'role'>,
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

/** Members who have chosen a language, with what tells where mails to them go. */
export async function membersWithLanguage(
  store: Store,
): Promise<readonly (Pick<Member, 'login' | 'mail'> & { readonly language: string })[]> {
  return emOf(store).execute<(Pick<Member, 'login' | 'mail'> & { language: string })[]>(
    'select login, mail, language from member where language is not null',
  );
}

/** Whether a member is a person: the set-up of the demo has no password that anybody could know. */
const PERSON = { passwordHash: { $ne: '!' } } as const;

/** A member as lists show them. */
export interface ListedMember {
  readonly member: Member;
  readonly roles: readonly NamedSiteRole[];
  readonly lastSeenAt: Date | null;
  readonly tokens: number;
  /** How many at the identity provider sign in as them. */
  readonly identities: number;
}

/** Everybody who may sign in, by name. Four queries, however many they are. @param login - only this one */
export async function listMembers(store: Store, login?: string): Promise<ListedMember[]> {
  const em = emOf(store);
  const members = await em.find(
    MemberEntity,
    { ...PERSON, ...(login === undefined ? {} : { login }) },
    { orderBy: { name: 'asc', id: 'asc' } },
  );
  const ids = members.map(({ id }) => id);
  const roles = groupBy(await rolesOf(store, ids), ({ member }) => member);
  const uses = await em.execute<{ id: number; seen: Date | null; tokens: number }[]>(
    `select member_id as id, max(last_used_at) as seen,
       count(*) filter (where kind = 'token' and expires_at > now())::int as tokens
     from credential where member_id = any(?::int[]) group by 1`,
    [`{${ids.join()}}`],
  );
  const identities = await em.execute<{ id: number; n: number }[]>(
    'select member_id as id, count(*)::int as n from identity where member_id = any(?::int[]) group by 1',
    [`{${ids.join()}}`],
  );
  const connected = new Map(identities.map(({ id, n }) => [id, n]));
  const used = new Map(uses.map((use) => [use.id, use]));
  return members.map((member) => {
    const use = used.get(member.id);
    return {
      member,
      roles: roles.get(member.id) ?? [],
      lastSeenAt: use?.seen ? new Date(use.seen) : null,
      tokens: use?.tokens ?? 0,
      identities: connected.get(member.id) ?? 0,
    };
  });
}

/** Gives a member another name or role; saved with the unit of work. */
export function editMember(
  member: Member,
  { name, role }: { readonly name?: string | undefined; readonly role?: Member['role'] | undefined },
): void {
  Object.assign(member, name === undefined ? {} : { name }, role === undefined ? {} : { role });
}

/** What members say of themselves. */
export interface AccountEdit {
  /** Where mails to them go; null for nowhere. */
  readonly mail?: string | null | undefined;
  /** The tag of the language that they read; null for none in particular. */
  readonly language?: string | null | undefined;
}

/** Changes what a member says; what is left out stays. */
export function setAccount(member: Member, { mail, language }: AccountEdit): void {
  if (mail !== undefined) Object.assign(member, { mail: mail ?? '' });
  if (language !== undefined) Object.assign(member, { language });
}

/** Removes a member with sessions, tokens and roles. */
export async function removeMember(store: Store, { id }: Pick<Member, 'id'>): Promise<void> {
  await emOf(store).nativeDelete(MemberEntity, { id });
}

/** People who own the installation. */
export async function ownersOf(store: Store): Promise<readonly Member[]> {
  return emOf(store).find(MemberEntity, { ...PERSON, role: 'own' });
}

/** The same, and they stay so until the transaction ends. */
export async function lockOwners(store: Store): Promise<readonly Member[]> {
  const lockMode = LockMode.PESSIMISTIC_WRITE;
  return emOf(store).find(MemberEntity, { ...PERSON, role: 'own' }, { lockMode, orderBy: { id: 'asc' } });
}
