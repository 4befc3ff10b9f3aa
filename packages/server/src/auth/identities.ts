import type { IdentityAnswer } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import {
  identitiesOf,
  identityBySubject,
  insertIdentity,
  noteIdentityUse,
  removeIdentityOf,
} from '../storage/identities.js';
import { passkeysOf } from '../storage/passkeys.js';
import type { Identity, Member } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { say } from '../texts/say.js';
import { createCredential, type Origin } from './accounts.js';
import type { IdentityProvider, ProvenIdentity } from './identity-provider.js';
import { hasPassword } from './password.js';

/** @throws ServiceError 422 where none is set */
export function assertProvider(provider: IdentityProvider | undefined): IdentityProvider {
  if (!provider) throw new ServiceError('no-identity-provider', {});
  return provider;
}

/**
 * Signs in whoever has connected the identity that somebody has proved. Nobody becomes a member by signing in elsewhere: mail
 * addresses and names of a provider are not believed.
 *
 * @returns who it is, and the secret of the session
 * @throws ServiceError 401, 403 where it is nobody's here
 */
export async function signInWithIdentity(
  store: Store,
  answer: IdentityAnswer,
  provider: IdentityProvider,
  { from, days }: { readonly from: Origin; readonly days: number },
): Promise<{ member: Member; secret: string }> {
  const proven = await provider.finish(answer);
  const identity = await identityBySubject(store, proven);
  if (!identity) throw new ServiceError('identity-unknown', { provider: provider.name, name: proven.name });
  const { member } = identity;
  await noteIdentityUse(store, identity, proven.name);
  // A session that was still open there proves who it is, not that they sit there now.
  const isConfirmed = proven.isFresh;
  const { secret } = createCredential(store, member, 'session', 'console', days, { from, isConfirmed });
  audit(store, null, member.login, 'sign-in', () =>
    say(AUTH_TEXTS.signedInIdentity, { provider: provider.name }),
  );
  await store.flush();
  return { member, secret };
}

/** Connects a member with somebody at the identity provider. @throws ServiceError 401, 409 */
export async function addIdentity(
  store: Store,
  member: Member,
  answer: IdentityAnswer,
  provider: IdentityProvider,
): Promise<Identity> {
  const proven = await provider.finish(answer);
  await assertFree(store, proven, provider);
  const made = connect(store, member, proven, provider);
  await store.flush();
  return made;
}

/** Adds an identity, and what the trail says of it, to the unit of work. */
export function connect(
  store: Store,
  member: Member,
  { issuer, subject, name }: ProvenIdentity,
  provider: IdentityProvider,
): Identity {
  audit(store, null, member.login, 'identity', () =>
    say(AUTH_TEXTS.connectedIdentity, { name, provider: provider.name }),
  );
  return insertIdentity(store, { member, issuer, subject, name });
}

/** @throws ServiceError 409 where it signs in somebody here already */
export async function assertFree(
  store: Store,
  proven: ProvenIdentity,
  provider: IdentityProvider,
): Promise<void> {
  if (await identityBySubject(store, proven))
    throw new ServiceError('identity-taken', { provider: provider.name, name: proven.name });
}

/** Disconnects a member from an identity. @throws ServiceError 404, 409 where they could not sign in any more */
export async function removeIdentity(store: Store, member: Member, id: number): Promise<void> {
  const identities = await identitiesOf(store, member);
  const removed = identities.find((identity) => identity.id === id);
  if (!removed) throw new ServiceError('no-such-identity', {});
  const isLast =
    !hasPassword(member) && identities.length === 1 && (await passkeysOf(store, member)).length === 0;
  if (isLast) throw new ServiceError('last-way-in', {});
  await removeIdentityOf(store, member, id);
  audit(store, null, member.login, 'identity', () =>
    say(AUTH_TEXTS.disconnectedIdentity, { name: removed.name }),
  );
  await store.flush();
}

/** Whether a member has just signed in anew at the provider. @throws ServiceError 401, 422 */
export async function assertIdentity(
  store: Store,
  member: Member,
  answer: IdentityAnswer,
  provider: IdentityProvider,
): Promise<void> {
  const proven = await provider.finish(answer);
  const identity = await identityBySubject(store, proven);
  if (!proven.isFresh || identity?.member.id !== member.id)
    throw new ServiceError('identity-not-yours', { provider: provider.name, name: proven.name });
}
