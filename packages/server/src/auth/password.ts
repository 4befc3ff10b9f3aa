import { ServiceError } from '../errors.js';
import type { Member } from '../storage/rows.js';
import { fieldError } from '../texts/field-errors.js';
import type { Origin } from './accounts.js';
import type { Attempts } from './attempts.js';
import { isPassword } from './secrets.js';

/** Stands in for the hash of a password where there is none: no password verifies against it. */
export const NO_PASSWORD = 'none';

/** Whether a member can sign in with a password at all. */
export function hasPassword({ passwordHash }: Pick<Member, 'passwordHash'>): boolean {
  return passwordHash !== NO_PASSWORD;
}

/** From where, against those who try. */
export interface Door extends Origin {
  readonly attempts: Attempts;
}

/** Whether a member who is signed in gives their own password. @throws ServiceError 422, 429 */
export async function assertPassword(
  member: Member,
  password: string,
  { attempts, address }: Door,
  { pointer }: { readonly pointer: string },
): Promise<void> {
  const { login, passwordHash } = member;
  if (!hasPassword(member)) throw new ServiceError('no-password', {});
  assertNoWait(attempts, login, address);
  if (!(await isPassword(passwordHash, password))) {
    attempts.failed(login, address);
    const errors = [fieldError(pointer, 'not-your-password', {})];
    throw new ServiceError('current-password-wrong', {}, { errors });
  }
  attempts.succeeded(login, address);
}

/** @throws ServiceError 429, which says for how long */
export function assertNoWait(attempts: Attempts, login: string, address: string): void {
  const wait = attempts.wait(login, address);
  if (wait === 0) return;
  const seconds = Math.ceil(wait / 1000);
  const details = { retryAfter: seconds };
  throw seconds < 120
    ? new ServiceError('wait-seconds', { seconds }, details)
    : new ServiceError('wait-minutes', { minutes: Math.ceil(seconds / 60) }, details);
}
