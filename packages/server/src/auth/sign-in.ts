import type { Store } from '../storage/store.js';
import { mayAt, type Access, type TokenRole } from '@pragmatica/core';
import { ServiceError, errorAt } from '../errors.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import {
  countValidTokens,
  endAll,
  removeCredential,
  removeOwn,
  sessionsOf,
  sitesOfTokens,
  tokensOf,
} from '../storage/credentials.js';
import { memberByLogin, setPassword } from '../storage/members.js';
import type { Credential, Member, Site } from '../storage/rows.js';
import { sitesByKey } from '../storage/sites.js';
import { audit } from '../storage/trail.js';
import { fieldError } from '../texts/field-errors.js';
import { createCredential } from './accounts.js';
import { assertConfirmed } from './confirm.js';
import { assertNoWait, assertPassword, hasPassword, type Door } from './password.js';
import { hasSecondFactor, isSecondFactor } from './second-factor.js';
import { checkDecoy, hashPassword, isPassword } from './secrets.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { say } from '../texts/say.js';

const TOKEN_DAYS = 365;

export interface SignIn {
  readonly login: string;
  readonly password: string;
  /** Replaces a one-time password. */
  readonly newPassword?: string | undefined;
  /** Of the authenticator, or a recovery code. */
  readonly code?: string | undefined;
  readonly as: 'session' | 'token';
  readonly tokenName?: string | undefined;
  readonly endTokens: boolean;
}

/**
 * Signs somebody in.
 *
 * @returns who it is, and the secret of the session or token
 * @throws ServiceError 401, 403, 422, 429
 */
export async function signIn(
  store: Store,
  { login, password, newPassword, code, as, tokenName, endTokens }: SignIn,
  { attempts, ...from }: Door,
  { sessionDays, box }: { readonly sessionDays: number; readonly box: SecretBox },
): Promise<{ member: Member; secret: string }> {
  const { address } = from;
  assertNoWait(attempts, login, address);
  const member = await memberByLogin(store, login);
  const isRight = member ? await isPassword(member.passwordHash, password) : await checkDecoy(password);
  if (!member || !isRight) {
    attempts.failed(login, address);
    throw new ServiceError('wrong-password', {});
  }
  if (hasSecondFactor(member)) {
    // Whoever gets as far as here knows the password: from here on the answer may say what is missing.
    if (code === undefined) throw new ServiceError('code-needed', {});
    if (!(await isSecondFactor(store, member, code, box))) {
      attempts.failed(login, address);
      throw new ServiceError('code-not-right', {}, { errors: [fieldError('/code', 'not-the-code', {})] });
    }
  }
  attempts.succeeded(login, address);
  if (newPassword !== undefined) {
    await replacePassword(member, password, newPassword, '/newPassword');
    await endOthers(store, member, endTokens);
  } else if (member.mustChangePassword && as === 'token') throw new ServiceError('own-password-along', {});
  const isSession = as === 'session';
  const name = tokenName ?? (isSession ? 'console' : AUTH_TEXTS.commandLine);
  const { secret } = createCredential(store, member, as, name, isSession ? sessionDays : TOKEN_DAYS, {
    isConfirmed: true,
    ...(isSession ? { from } : {}),
  });
  note(store, member, 'sign-in', () => (isSession ? AUTH_TEXTS.signedInConsole : AUTH_TEXTS.signedInToken));
  await store.flush();
  return { member, secret };
}

export async function signOut(store: Store, credential: Credential): Promise<void> {
  await removeCredential(store, credential);
}

export interface PasswordChange {
  /** Undefined of whoever has none. */
  readonly current?: string | undefined;
  readonly new: string;
  readonly endTokens: boolean;
}

/**
 * Changes a member's password; the other sessions end. Whoever has none yet has proved otherwise a short while ago who they are.
 *
 * @throws ServiceError 403, 422, 429
 */
export async function changePassword(
  store: Store,
  credential: Credential,
  { current, ...change }: PasswordChange,
  { door, minutes }: { readonly door: Door; readonly minutes: number },
): Promise<Member> {
  const { member } = credential;
  if (hasPassword(member)) await assertPassword(member, current ?? '', door, { pointer: '/current' });
  else assertConfirmed(credential, minutes);
  await replacePassword(member, current, change.new, '/new');
  await endOthers(store, member, change.endTokens, credential);
  note(store, member, 'password', () => AUTH_TEXTS.changedPassword);
  await store.flush();
  return member;
}

/** A token, and the keys of the sites that it is for; null for all that its member sees. */
export interface TokenOfSites {
  readonly credential: Credential;
  readonly sites: readonly string[] | null;
}

/** A member's tokens, the oldest first. Two queries. */
export async function listTokens(store: Store, member: Member): Promise<TokenOfSites[]> {
  const tokens = await tokensOf(store, member);
  const sites = await sitesOfTokens(store, tokens);
  return tokens.map((credential) => ({
    credential,
    sites: credential.isForAllSites ? null : (sites.get(credential.id) ?? []),
  }));
}

export interface NewToken {
  readonly name: string;
  readonly days: number;
  readonly role: TokenRole | null;
  /** Keys. */
  readonly sites: readonly string[] | null;
}

/** Makes a token. Its secret is returned once. @throws ServiceError 422 where its member does not see one of the sites */
export async function createToken(
  store: Store,
  { member, access }: { readonly member: Member; readonly access: Access },
  { name, days, role, sites }: NewToken,
): Promise<TokenOfSites & { secret: string }> {
  const found = sites === null ? undefined : await seenSites(store, access, sites);
  const made = createCredential(store, member, 'token', name, days, {
    role,
    ...(found ? { sites: found } : {}),
  });
  note(store, member, 'token', () => say(AUTH_TEXTS.madeTokenName, { name }));
  await store.flush();
  return { ...made, sites: found?.map(({ key }) => key) ?? null };
}

/** @throws ServiceError 422 */
async function seenSites(store: Store, access: Access, keys: readonly string[]): Promise<Site[]> {
  const found = await sitesByKey(store, keys);
  return [...new Set(keys)].map((key) => {
    const site = mayAt(access, key, 'view') ? found.get(key) : undefined;
    if (!site) throw errorAt(`/sites/${keys.indexOf(key)}`, 'no-such-site-named', { site: key });
    return site;
  });
}

/** Takes a token back. @throws ServiceError 404 */
export async function removeToken(store: Store, member: Member, id: number): Promise<void> {
  if (!(await removeOwn(store, member, 'token', id))) throw new ServiceError('no-such-token', {});
  note(store, member, 'token', () => AUTH_TEXTS.tookTokenBack);
  await store.flush();
}

/** A member's sessions, the newest first. */
export async function listSessions(store: Store, member: Member): Promise<readonly Credential[]> {
  return sessionsOf(store, member);
}

/** Ends one of a member's sessions. @throws ServiceError 404 */
export async function endSession(store: Store, member: Member, id: number): Promise<void> {
  if (!(await removeOwn(store, member, 'session', id))) throw new ServiceError('no-such-session', {});
  note(store, member, 'session', () => AUTH_TEXTS.endedSession);
  await store.flush();
}

/** Signs a member out everywhere else: the session that asks goes on. Tokens stay. */
export async function endOtherSessions(store: Store, credential: Credential): Promise<void> {
  await endAll(store, credential.member, 'session', credential);
  note(store, credential.member, 'session', () => AUTH_TEXTS.endedSessions);
  await store.flush();
}

/** Tokens of a member that are still valid: a new password does not end them by itself. */
export async function countTokens(store: Store, member: Member): Promise<number> {
  return countValidTokens(store, member);
}

function note(store: Store, { login: by }: Member, action: string, message: () => string): void {
  audit(store, null, by, action, message);
}

/**
 * A new password ends every session that the old one opened, whoever opened it, and, when asked, all tokens.
 *
 * @param own - the credential that goes on
 */
async function endOthers(store: Store, member: Member, endTokens: boolean, own?: Credential): Promise<void> {
  await endAll(store, member, 'session', own);
  if (endTokens) await endAll(store, member, 'token', own);
}

async function replacePassword(
  member: Member,
  current: string | undefined,
  next: string,
  pointer: string,
): Promise<void> {
  if (next === current)
    throw new ServiceError('same-password', {}, { errors: [fieldError(pointer, 'another-password', {})] });
  setPassword(member, await hashPassword(next), { mustChange: false });
}
