import type { EntityManager } from '@mikro-orm/postgresql';
import { CredentialEntity, MemberEntity, type Credential, type Member } from '../storage/entities/index.js';
import { hashPassword, newOneTimePassword, newSecret, secretHash } from './secrets.js';

export const DAY_MS = 24 * 60 * 60 * 1000;

/** `lastUsedAt` is written at most this often. */
const LAST_USED_PRECISION_MS = 60_000;

/**
 * Makes the first administrator. As long as a one-time password has not been replaced, every start gives a new one,
 * so that a lost one locks nobody out.
 *
 * @returns the one-time password to show, or undefined when the administrator has chosen one
 */
export async function ensureAdministrator(
  em: EntityManager,
): Promise<{ login: string; password: string } | undefined> {
  const login = 'admin';
  const existing = await em.findOne(MemberEntity, { login });
  if (existing && !existing.mustChangePassword) return undefined;
  const password = newOneTimePassword();
  const passwordHash = await hashPassword(password);
  if (existing) {
    existing.passwordHash = passwordHash;
    // Whoever came in with the last one must come again with this one.
    await em.nativeDelete(CredentialEntity, { member: existing, kind: 'session' });
  } else
    em.create(
      MemberEntity,
      { login, name: 'Administrator', passwordHash, mustChangePassword: true, createdAt: new Date() },
      { persist: true },
    );
  await em.flush();
  return { login, password };
}

/** A bearer token for the program that fills in the demo; not a person's, and short-lived. */
export async function createSetUpToken(em: EntityManager): Promise<string> {
  const login = 'set-up';
  let member = await em.findOne(MemberEntity, { login });
  if (!member) {
    // No password verifies against this hash: nobody can sign in as the set-up.
    member = em.create(
      MemberEntity,
      { login, name: 'Set-up', passwordHash: '!', mustChangePassword: false, createdAt: new Date() },
      { persist: true },
    );
  }
  const { secret } = createCredential(em, member, 'token', 'demo set-up', 1 / 24);
  await em.flush();
  return secret;
}

/** Adds a session or token to the unit of work. The secret is returned once and never stored. */
export function createCredential(
  em: EntityManager,
  member: Member,
  kind: 'session' | 'token',
  name: string,
  days: number,
): { credential: Credential; secret: string } {
  const secret = newSecret();
  const now = Date.now();
  const credential = em.create(
    CredentialEntity,
    {
      kind,
      name,
      member,
      hash: secretHash(secret),
      createdAt: new Date(now),
      lastUsedAt: null,
      expiresAt: new Date(now + days * DAY_MS),
    },
    { persist: true },
  );
  return { credential, secret };
}

/** The credential that a secret belongs to, with its member, unless it has run out. */
export async function findCredential(
  em: EntityManager,
  kind: 'session' | 'token',
  secret: string,
): Promise<Credential | undefined> {
  const credential = await em.findOne(
    CredentialEntity,
    { kind, hash: secretHash(secret) },
    { populate: ['member'] },
  );
  if (!credential || credential.expiresAt.getTime() < Date.now()) return undefined;
  const used = credential.lastUsedAt?.getTime() ?? 0;
  if (Date.now() - used > LAST_USED_PRECISION_MS) {
    await em.nativeUpdate(CredentialEntity, { id: credential.id }, { lastUsedAt: new Date() });
  }
  return credential;
}

/** Takes sessions and tokens that have run out away. @returns how many */
export async function sweepCredentials(em: EntityManager): Promise<number> {
  return em.nativeDelete(CredentialEntity, { expiresAt: { $lt: new Date() } });
}
