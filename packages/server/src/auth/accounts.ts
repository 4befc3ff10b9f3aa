import type { Device, TokenRole } from '@pragmatica/core';
import { errorAt } from '../errors.js';
import { languageByTag, languages } from '../language/languages.js';
import type { Store } from '../storage/store.js';
import { credentialByHash, endAll, insertCredential, touchCredential } from '../storage/credentials.js';
import {
  insertMember,
  memberByLogin,
  ownersOf,
  setAccount,
  setPassword,
  type AccountEdit,
} from '../storage/members.js';
import type { Credential, Member, Site } from '../storage/rows.js';
import { hashPassword, newOneTimePassword, newSecret, secretHash } from './secrets.js';

export const DAY_MS = 24 * 60 * 60 * 1000;

/** `lastUsedAt` is written at most this often. */
const LAST_USED_PRECISION_MS = 60_000;

/**
 * Makes the first administrator. As long as a one-time password has not been replaced, every start gives a new one,
 * so that a lost one locks nobody out. Once somebody else owns the installation it is for them to help, and whom they have removed stays
 * away.
 *
 * @returns the one-time password to show, or undefined when the administrator has chosen one
 */
export async function ensureAdministrator(
  store: Store,
): Promise<{ login: string; password: string } | undefined> {
  const login = 'admin';
  const existing = await memberByLogin(store, login);
  if (existing && !existing.mustChangePassword) return undefined;
  const others = (await ownersOf(store)).filter(
    (owner) => owner.login !== login && !owner.mustChangePassword,
  );
  if (others.length > 0) return undefined;
  const password = newOneTimePassword();
  const passwordHash = await hashPassword(password);
  if (existing) {
    setPassword(existing, passwordHash, { mustChange: true });
    // Whoever came in with the last one must come again with this one.
    await endAll(store, existing, 'session');
  } else
    insertMember(store, {
      login,
      name: 'Administrator',
      passwordHash,
      mustChangePassword: true,
      role: 'own',
    });
  await store.flush();
  return { login, password };
}

/** Not for people: nobody can take it. */
export const SET_UP_LOGIN = 'set-up';

/** A bearer token for the program that fills in the demo; not a person's, and short-lived. */
export async function createSetUpToken(store: Store): Promise<string> {
  const login = SET_UP_LOGIN;
  const member =
    (await memberByLogin(store, login)) ??
    // No password verifies against this hash: nobody can sign in as the set-up.
    insertMember(store, {
      login,
      name: 'Set-up',
      passwordHash: '!',
      mustChangePassword: false,
      role: 'own',
    });
  const { secret } = createCredential(store, member, 'token', 'demo set-up', 1 / 24);
  await store.flush();
  return secret;
}

/** Where somebody signs in. */
export interface Origin {
  readonly address: string;
  readonly device: Device;
}

/** What a session or token is for. */
export interface CredentialKind {
  readonly from?: Origin;
  readonly role?: TokenRole | null;
  readonly sites?: readonly Site[];
  /** The password was given for it just now. */
  readonly isConfirmed?: boolean;
}

/** Adds a session or token to the unit of work. The secret is returned once and never stored. */
export function createCredential(
  store: Store,
  member: Member,
  kind: 'session' | 'token',
  name: string,
  days: number,
  { from, role = null, sites, isConfirmed = false }: CredentialKind = {},
): { credential: Credential; secret: string } {
  const secret = newSecret();
  const now = Date.now();
  const credential = insertCredential(
    store,
    {
      kind,
      name,
      member,
      hash: secretHash(secret),
      createdAt: new Date(now),
      expiresAt: new Date(now + days * DAY_MS),
      openedFrom: from?.address ?? null,
      device: from?.device ?? null,
      role,
      confirmedAt: isConfirmed ? new Date(now) : null,
    },
    sites,
  );
  return { credential, secret };
}

/** The credential that a secret belongs to, with its member, unless it has run out. */
export async function findCredential(
  store: Store,
  kind: 'session' | 'token',
  secret: string,
): Promise<Credential | undefined> {
  const credential = await credentialByHash(store, kind, secretHash(secret));
  if (!credential || credential.expiresAt.getTime() < Date.now()) return undefined;
  const used = credential.lastUsedAt?.getTime() ?? 0;
  if (Date.now() - used > LAST_USED_PRECISION_MS) await touchCredential(store, credential);
  return credential;
}

/** Changes what a member says of themselves. @throws ServiceError 422 for a language that the service does not speak */
export async function editAccount(
  store: Store,
  { member }: Pick<Credential, 'member'>,
  edit: AccountEdit,
): Promise<Member> {
  const { language } = edit;
  if (typeof language === 'string' && !languageByTag(language))
    throw errorAt('/language', 'no-such-language', {
      ...{ language, known: languages().map(({ tag }) => tag) },
    });
  setAccount(member, edit);
  await store.flush();
  return member;
}
