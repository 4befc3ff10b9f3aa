import type { IdentityAnswer } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import { confirmCredential } from '../storage/credentials.js';
import type { Credential } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { assertIdentity, assertProvider } from './identities.js';
import type { IdentityProvider } from './identity-provider.js';
import { assertPassword, type Door } from './password.js';

interface ConfirmationTools {
  readonly door: Door;
  readonly provider: IdentityProvider | undefined;
  /** For so long it counts. */
  readonly minutes: number;
}

/** @returns until when what matters can be done, in milliseconds; in the past where the password must be given first */
export function confirmedUntil({ confirmedAt }: Pick<Credential, 'confirmedAt'>, minutes: number): number {
  return (confirmedAt?.getTime() ?? 0) + minutes * 60_000;
}

/** @throws ServiceError 403 where they did not prove who they are a short while ago */
export function assertConfirmed(credential: Credential, minutes: number): void {
  if (confirmedUntil(credential, minutes) < Date.now()) throw new ServiceError('confirm-first', {});
}

/** Gives a password, or says what the identity provider has just said. */
export interface Confirmation {
  readonly password?: string | undefined;
  readonly identity?: IdentityAnswer | undefined;
}

/** Whoever asks proves once more who they are. @returns until when it counts @throws ServiceError 401, 422, 429 */
export async function confirm(
  store: Store,
  credential: Credential,
  { password, identity }: Confirmation,
  { door, provider, minutes }: ConfirmationTools,
): Promise<Date> {
  const { member } = credential;
  if (password !== undefined) await assertPassword(member, password, door, { pointer: '/password' });
  else await assertIdentity(store, member, identity!, assertProvider(provider));
  const now = new Date();
  await confirmCredential(store, credential, now);
  return new Date(confirmedUntil({ confirmedAt: now }, minutes));
}
