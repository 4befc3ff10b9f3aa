import { ServiceError } from '../errors.js';
import { confirmCredential } from '../storage/credentials.js';
import type { Credential } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { assertPassword, type Door } from './password.js';

/** @returns until when what matters can be done, in milliseconds; in the past where the password must be given first */
export function confirmedUntil({ confirmedAt }: Pick<Credential, 'confirmedAt'>, minutes: number): number {
  return (confirmedAt?.getTime() ?? 0) + minutes * 60_000;
}

/** @throws ServiceError 403 where the password was not given a short while ago */
export function assertConfirmed(credential: Credential, minutes: number): void {
  if (confirmedUntil(credential, minutes) < Date.now()) throw new ServiceError('confirm-first', {});
}

/** Whoever asks gives their password again. @returns until when it counts @throws ServiceError 422, 429 */
export async function confirmPassword(
  store: Store,
  credential: Credential,
  password: string,
  { door, minutes }: { readonly door: Door; readonly minutes: number },
): Promise<Date> {
  await assertPassword(credential.member, password, door, { pointer: '/password' });
  const now = new Date();
  await confirmCredential(store, credential, now);
  return new Date(confirmedUntil({ confirmedAt: now }, minutes));
}
