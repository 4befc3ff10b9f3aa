import { createHash } from 'node:crypto';
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import { ServiceError } from '../errors.js';
import {
  insertPasskey,
  notePasskeyUse,
  passkeyByCredential,
  passkeysOf,
  removePasskeyOf,
} from '../storage/passkeys.js';
import type { Member, Passkey } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { say } from '../texts/say.js';
import { createCredential, type Origin } from './accounts.js';
import { Challenges, type Challenge } from './challenges.js';
import type { SecretBox } from '../outgoing/secret-box.js';

/** The service as a browser knows it (Web Authentication: relying party). */
export interface Party {
  /** Its host name. */
  readonly id: string;
  readonly origin: string;
}

/** A challenge, and whose passkey is made; null where somebody signs in. */
interface PasskeyChallenge extends Challenge {
  readonly member: number | null;
}

/** Challenges to passkeys: they work for five minutes. */
export type PasskeyChallenges = Challenges<PasskeyChallenge>;

export function createPasskeyChallenges(box: SecretBox): PasskeyChallenges {
  return new Challenges(box, 'passkey challenge', 5 * 60_000);
}

/** What somebody's browser needs, and what it hands back with its answer. */
export interface Asked {
  readonly options: { readonly challenge: string };
  readonly state: string;
}

/** A passkey is to be made. */
export async function askForPasskey(
  store: Store,
  member: Member,
  party: Party,
  challenges: PasskeyChallenges,
): Promise<Asked> {
  const known = await passkeysOf(store, member);
  const options = await generateRegistrationOptions({
    rpName: 'Pragmatica',
    rpID: party.id,
    userName: member.login,
    userDisplayName: member.name,
    // Says nothing of its member to whoever looks into the authenticator.
    userID: new Uint8Array(createHash('sha256').update(`member ${member.id}`).digest()),
    attestationType: 'none',
    excludeCredentials: known
      .filter(({ partyId }) => partyId === party.id)
      .map(({ credentialId, transports }) => ({ id: credentialId, transports: toTransports(transports) })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  return { options, state: challenges.give({ challenge: options.challenge, member: member.id }) };
}

export interface MadePasskey {
  readonly name: string;
  readonly state: string;
  readonly credential: RegistrationResponseJSON;
}

/** Keeps a passkey that a browser has made. @throws ServiceError 422 */
export async function keepPasskey(
  store: Store,
  member: Member,
  { name, state, credential }: MadePasskey,
  { party, challenges }: { readonly party: Party; readonly challenges: PasskeyChallenges },
): Promise<Passkey> {
  const asked = challenges.take(state);
  if (asked?.member !== member.id) throw new ServiceError('passkey-late', {});
  const { verified, registrationInfo } = await orRefuse(
    verifyRegistrationResponse({
      response: credential,
      expectedChallenge: asked.challenge,
      expectedOrigin: party.origin,
      expectedRPID: party.id,
      requireUserVerification: true,
    }),
  );
  if (!verified) throw new ServiceError('passkey-refused', {});
  const { id, publicKey, counter, transports = [] } = registrationInfo.credential;
  if (await passkeyByCredential(store, id)) throw new ServiceError('passkey-there', {});
  const made = insertPasskey(store, {
    ...{ member, name, credentialId: id, counter, transports: [...transports], partyId: party.id },
    publicKey: Buffer.from(publicKey).toString('base64url'),
  });
  audit(store, null, member.login, 'passkey', () => say(AUTH_TEXTS.madePasskey, { name }));
  await store.flush();
  return made;
}

/** Removes one of a member's passkeys. @throws ServiceError 404 */
export async function removePasskey(store: Store, member: Member, id: number): Promise<void> {
  if (!(await removePasskeyOf(store, member, id))) throw new ServiceError('no-such-passkey', {});
  audit(store, null, member.login, 'passkey', () => AUTH_TEXTS.removedPasskey);
  await store.flush();
}

/** Somebody wants in, and their browser knows who they are. */
export async function askToSignIn(party: Party, challenges: PasskeyChallenges): Promise<Asked> {
  const options = await generateAuthenticationOptions({ rpID: party.id, userVerification: 'required' });
  return { options, state: challenges.give({ challenge: options.challenge, member: null }) };
}

export interface PasskeySignIn {
  readonly state: string;
  readonly credential: AuthenticationResponseJSON;
}

/** Signs in whoever a passkey belongs to. @returns who it is, and the secret of the session @throws ServiceError 401 */
export async function signInWithPasskey(
  store: Store,
  { state, credential }: PasskeySignIn,
  { party, challenges }: { readonly party: Party; readonly challenges: PasskeyChallenges },
  { from, days }: { readonly from: Origin; readonly days: number },
): Promise<{ member: Member; secret: string }> {
  const asked = challenges.take(state);
  const passkey = await passkeyByCredential(store, credential.id);
  if (asked?.member !== null || passkey?.partyId !== party.id) throw new ServiceError('passkey-unknown', {});
  const { verified, authenticationInfo } = await orRefuse(
    verifyAuthenticationResponse({
      response: credential,
      expectedChallenge: asked.challenge,
      expectedOrigin: party.origin,
      expectedRPID: party.id,
      requireUserVerification: true,
      credential: {
        id: passkey.credentialId,
        publicKey: new Uint8Array(Buffer.from(passkey.publicKey, 'base64url')),
        counter: passkey.counter,
        transports: toTransports(passkey.transports),
      },
    }),
    'passkey-unknown',
  );
  if (!verified) throw new ServiceError('passkey-unknown', {});
  const { member } = passkey;
  await notePasskeyUse(store, passkey, authenticationInfo.newCounter);
  const { secret } = createCredential(store, member, 'session', 'console', days, { from, isConfirmed: true });
  audit(store, null, member.login, 'sign-in', () => AUTH_TEXTS.signedInPasskey);
  await store.flush();
  return { member, secret };
}

/** What the library throws is about what a stranger sent. */
async function orRefuse<T>(
  checked: Promise<T>,
  id: 'passkey-refused' | 'passkey-unknown' = 'passkey-refused',
): Promise<T> {
  try {
    return await checked;
  } catch (error) {
    throw new ServiceError(id, {}, {}, error);
  }
}

/** Those that a browser has named are names for browsers: what they mean is theirs to know. */
function toTransports(transports: readonly string[]): AuthenticatorTransport[] {
  return [...transports] as AuthenticatorTransport[];
}
