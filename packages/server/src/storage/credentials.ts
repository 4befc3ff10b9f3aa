import { groupBy } from '../group-by.js';
import { emOf } from './em.js';
import { CredentialEntity, TokenSiteEntity } from './entities/index.js';
import type { Credential, Member, Site } from './rows.js';
import type { Store } from './store.js';

type Kind = Credential['kind'];

/**
 * Adds a session or token to the unit of work.
 *
 * @param credential - its hash is the SHA-256 of its secret
 * @param sites - those that it is for; all that its member sees when left out
 */
export function insertCredential(
  store: Store,
  credential: Pick<
    Credential,
    | 'kind'
    | 'name'
    | 'member'
    | 'hash'
    | 'createdAt'
    | 'expiresAt'
    | 'openedFrom'
    | 'device'
    | 'role'
    | 'confirmedAt'
  >,
  sites?: readonly Site[],
): Credential {
  const em = emOf(store);
  const values = { ...credential, lastUsedAt: null, isForAllSites: sites === undefined };
  const made = em.create(CredentialEntity, values, { persist: true });
  for (const site of sites ?? [])
    em.create(TokenSiteEntity, { credential: made, site: site.id }, { persist: true });
  return made;
}

/** With its member; also one that has run out. */
export async function credentialByHash(
  store: Store,
  kind: Kind,
  hash: string,
): Promise<Credential | undefined> {
  const found = await emOf(store).findOne(CredentialEntity, { kind, hash }, { populate: ['member'] });
  return found ?? undefined;
}

/** Writes down that it was used now. */
export async function touchCredential(store: Store, { id }: Credential): Promise<void> {
  await emOf(store).nativeUpdate(CredentialEntity, { id }, { lastUsedAt: new Date() });
}

/** Writes down that the password was given with it now. */
export async function confirmCredential(
  store: Store,
  { id }: Pick<Credential, 'id'>,
  at: Date,
): Promise<void> {
  await emOf(store).nativeUpdate(CredentialEntity, { id }, { confirmedAt: at });
}

/** A member's tokens, the oldest first. */
export async function tokensOf(store: Store, member: Member): Promise<readonly Credential[]> {
  return emOf(store).find(CredentialEntity, { member, kind: 'token' }, { orderBy: { id: 'asc' } });
}

/** Keys of the sites that some tokens are for, by id of the token. One query. */
export async function sitesOfTokens(
  store: Store,
  tokens: readonly Pick<Credential, 'id'>[],
): Promise<Map<number, string[]>> {
  const rows = await emOf(store).find(
    TokenSiteEntity,
    { credential: { $in: tokens.map(({ id }) => id) } },
    { populate: ['site'], orderBy: { site: { key: 'asc' } } },
  );
  return new Map(
    [...groupBy(rows, ({ credential }) => credential.id)].map(([id, own]) => [
      id,
      own.map(({ site }) => site.key),
    ]),
  );
}

/** How many of them are still valid. */
export async function countValidTokens(store: Store, member: Member): Promise<number> {
  return emOf(store).count(CredentialEntity, { member, kind: 'token', expiresAt: { $gt: new Date() } });
}

/** A member's sessions that are still valid, the newest first. */
export async function sessionsOf(store: Store, member: Member): Promise<readonly Credential[]> {
  const valid = { member, kind: 'session', expiresAt: { $gt: new Date() } } as const;
  return emOf(store).find(CredentialEntity, valid, { orderBy: { id: 'desc' } });
}

/** @returns whether there was one */
export async function removeOwn(store: Store, member: Member, kind: Kind, id: number): Promise<boolean> {
  return (await emOf(store).nativeDelete(CredentialEntity, { id, member, kind })) > 0;
}

export async function removeCredential(store: Store, { id }: Pick<Credential, 'id'>): Promise<void> {
  await emOf(store).nativeDelete(CredentialEntity, { id });
}

/** Ends all of a member's sessions, or tokens. @param own - one that goes on */
export async function endAll(store: Store, member: Member, kind: Kind, own?: Credential): Promise<void> {
  const others = own ? { id: { $ne: own.id } } : {};
  await emOf(store).nativeDelete(CredentialEntity, { member, kind, ...others });
}

/** Removes what has run out. @returns how many */
export async function removeExpired(store: Store): Promise<number> {
  return emOf(store).nativeDelete(CredentialEntity, { expiresAt: { $lt: new Date() } });
}
