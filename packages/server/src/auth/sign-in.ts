import type { EntityManager } from '@mikro-orm/postgresql';
import { ServiceError } from '../errors.js';
import {
  AuditEntity,
  CredentialEntity,
  MemberEntity,
  type Credential,
  type Member,
} from '../storage/entities/index.js';
import { fieldError } from '../texts/field-errors.js';
import { createCredential } from './accounts.js';
import type { Attempts } from './attempts.js';
import { checkDecoy, hashPassword, isPassword } from './secrets.js';

const TOKEN_DAYS = 365;

export interface SignIn {
  readonly login: string;
  readonly password: string;
  /** Replaces a one-time password. */
  readonly newPassword?: string | undefined;
  readonly as: 'session' | 'token';
  readonly tokenName?: string | undefined;
  readonly endTokens: boolean;
}

/** From where, against those who try. */
export interface Door {
  readonly attempts: Attempts;
  readonly address: string;
}

/**
 * Signs somebody in.
 *
 * @param sessionDays - how long a session lasts
 * @returns who it is, and the secret of the session or token
 * @throws ServiceError 401, 403, 422, 429
 */
export async function signIn(
  em: EntityManager,
  { login, password, newPassword, as, tokenName, endTokens }: SignIn,
  { attempts, address }: Door,
  sessionDays: number,
): Promise<{ member: Member; secret: string }> {
  assertNoWait(attempts, login, address);
  const member = await em.findOne(MemberEntity, { login });
  const isRight = member ? await isPassword(member.passwordHash, password) : await checkDecoy(password);
  if (!member || !isRight) {
    attempts.failed(login, address);
    throw new ServiceError('wrong-password', {});
  }
  attempts.succeeded(login, address);
  if (newPassword !== undefined) {
    await replacePassword(member, password, newPassword, '/newPassword');
    await endOthers(em, member, endTokens);
  } else if (member.mustChangePassword && as === 'token') throw new ServiceError('own-password-along', {});
  const isSession = as === 'session';
  const name = tokenName ?? (isSession ? 'console' : 'command line');
  const { secret } = createCredential(em, member, as, name, isSession ? sessionDays : TOKEN_DAYS);
  note(em, member, 'sign-in', `Signed in (${isSession ? 'console' : 'token'}).`);
  await em.flush();
  return { member, secret };
}

export async function signOut(em: EntityManager, { id }: Credential): Promise<void> {
  await em.nativeDelete(CredentialEntity, { id });
}

export interface PasswordChange {
  readonly current: string;
  readonly new: string;
  readonly endTokens: boolean;
}

/** Changes a member's password; the other sessions end. @throws ServiceError 422, 429 */
export async function changePassword(
  em: EntityManager,
  credential: Credential,
  change: PasswordChange,
  { attempts, address }: Door,
): Promise<Member> {
  const { member } = credential;
  assertNoWait(attempts, member.login, address);
  if (!(await isPassword(member.passwordHash, change.current))) {
    attempts.failed(member.login, address);
    const errors = [fieldError('/current', 'not-your-password', {})];
    throw new ServiceError('current-password-wrong', {}, { errors });
  }
  attempts.succeeded(member.login, address);
  await replacePassword(member, change.current, change.new, '/new');
  await endOthers(em, member, change.endTokens, credential);
  note(em, member, 'password', 'Changed the password.');
  await em.flush();
  return member;
}

/** A member's tokens, the oldest first. */
export async function listTokens(em: EntityManager, member: Member): Promise<Credential[]> {
  return em.find(CredentialEntity, { member, kind: 'token' }, { orderBy: { id: 'asc' } });
}

/** Makes a token. Its secret is returned once. */
export async function createToken(
  em: EntityManager,
  member: Member,
  { name, days }: { readonly name: string; readonly days: number },
): Promise<{ credential: Credential; secret: string }> {
  const made = createCredential(em, member, 'token', name, days);
  note(em, member, 'token', `Made the token “${name}”.`);
  await em.flush();
  return made;
}

/** Takes a token back. @throws ServiceError 404 */
export async function removeToken(em: EntityManager, member: Member, id: number): Promise<void> {
  const count = await em.nativeDelete(CredentialEntity, { id, member, kind: 'token' });
  if (count === 0) throw new ServiceError('no-such-token', {});
  note(em, member, 'token', 'Took a token back.');
  await em.flush();
}

/** Tokens of a member that are still valid: a new password does not end them by itself. */
export async function countTokens(em: EntityManager, member: Member): Promise<number> {
  return em.count(CredentialEntity, { member, kind: 'token', expiresAt: { $gt: new Date() } });
}

function note(em: EntityManager, { login: by }: Member, action: string, message: string): void {
  em.create(AuditEntity, { site: null, by, action, message, at: new Date() }, { persist: true });
}

/** @throws ServiceError 429, which says for how long */
function assertNoWait(attempts: Attempts, login: string, address: string): void {
  const wait = attempts.wait(login, address);
  if (wait === 0) return;
  const seconds = Math.ceil(wait / 1000);
  const details = { retryAfter: seconds };
  throw seconds < 120
    ? new ServiceError('wait-seconds', { seconds }, details)
    : new ServiceError('wait-minutes', { minutes: Math.ceil(seconds / 60) }, details);
}

/**
 * A new password ends every session that the old one opened, whoever opened it, and, when asked, all tokens.
 *
 * @param own - the credential that goes on
 */
async function endOthers(
  em: EntityManager,
  member: Member,
  endTokens: boolean,
  own?: Credential,
): Promise<void> {
  const others = own ? { id: { $ne: own.id } } : {};
  await em.nativeDelete(CredentialEntity, { member, kind: 'session', ...others });
  if (endTokens) await em.nativeDelete(CredentialEntity, { member, kind: 'token', ...others });
}

async function replacePassword(
  member: Member,
  current: string,
  next: string,
  pointer: string,
): Promise<void> {
  if (next === current)
    throw new ServiceError('same-password', {}, { errors: [fieldError(pointer, 'another-password', {})] });
  member.passwordHash = await hashPassword(next);
  member.mustChangePassword = false;
}
