import { randomBytes } from 'node:crypto';
import { ServiceError } from '../errors.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import { SEAL_PURPOSES } from '../outgoing/seal-purposes.js';
import {
  countRecoveryCodes,
  replaceRecoveryCodes,
  setSecondFactor,
  useRecoveryCode,
  useStep,
} from '../storage/second-factors.js';
import type { Member } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit } from '../storage/trail.js';
import { AUTH_TEXTS } from '../texts/auth.js';
import { fieldError } from '../texts/field-errors.js';
import { secretHash } from './secrets.js';
import { newTotpSecret, stepOf, totpAddress } from './totp.js';

const RECOVERY_CODES = 10;

/** Letters and digits that nobody mixes up when they copy them from paper. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

/** Whether a member signs in with a code, and how many recovery codes are left. */
export async function describeSecondFactor(
  store: Store,
  member: Member,
): Promise<{ isOn: boolean; recoveryCodes: number }> {
  return { isOn: hasSecondFactor(member), recoveryCodes: await countRecoveryCodes(store, member) };
}

export function hasSecondFactor({ secondFactor }: Pick<Member, 'secondFactor'>): boolean {
  return (secondFactor ?? null) !== null;
}

/** A secret for an authenticator. It counts once a code of it has come back. */
export function proposeSecondFactor({ login }: Member): { secret: string; address: string } {
  const secret = newTotpSecret();
  return { secret, address: totpAddress(secret, login) };
}

/**
 * From now on a member signs in with codes of an authenticator, too.
 *
 * @returns recovery codes, which are shown once
 * @throws ServiceError 422 where the code is not one of the secret
 */
export async function enableSecondFactor(
  store: Store,
  member: Member,
  { secret, code }: { readonly secret: string; readonly code: string },
  box: SecretBox,
): Promise<string[]> {
  const step = stepOf(secret, plain(code), Date.now());
  if (step === undefined) {
    const errors = [fieldError('/code', 'not-the-code', {})];
    throw new ServiceError('code-wrong', {}, { errors });
  }
  setSecondFactor(member, box.seal(secret, SEAL_PURPOSES.secondFactor(member.id)), step);
  audit(store, null, member.login, 'second-factor', () => AUTH_TEXTS.secondFactorOn);
  await store.flush();
  return renewRecoveryCodes(store, member);
}

/** From now on the password alone signs a member in. */
export async function removeSecondFactor(store: Store, member: Member, actor: string): Promise<void> {
  if (!hasSecondFactor(member)) return;
  setSecondFactor(member, null, null);
  audit(store, null, actor, 'second-factor', () => AUTH_TEXTS.secondFactorOff);
  await store.flush();
  await replaceRecoveryCodes(store, member, []);
}

/**
 * New recovery codes in place of the old ones.
 *
 * @returns them, to be shown once
 * @throws ServiceError 409 where there is no second factor
 */
export async function renewRecoveryCodes(store: Store, member: Member): Promise<string[]> {
  if (!hasSecondFactor(member)) throw new ServiceError('no-second-factor', {});
  const codes = Array.from({ length: RECOVERY_CODES }, newRecoveryCode);
  await replaceRecoveryCodes(
    store,
    member,
    codes.map((code) => recoveryHash(member, code)),
  );
  return codes;
}

/** Whether a code lets a member in: one of the authenticator that was not used yet, or a recovery code, which it uses up. */
export async function isSecondFactor(
  store: Store,
  member: Member,
  typed: string,
  box: SecretBox,
): Promise<boolean> {
  const code = plain(typed);
  const step = stepOf(
    box.open(member.secondFactor!, SEAL_PURPOSES.secondFactor(member.id)),
    code,
    Date.now(),
  );
  if (step !== undefined) return useStep(store, member, step);
  return useRecoveryCode(store, member, recoveryHash(member, code));
}

/** Four groups of four: 79 bits. */
function newRecoveryCode(): string {
  const letters = [...randomBytes(16)].map((byte) => LETTERS[byte % LETTERS.length]!).join('');
  return letters.match(/.{4}/g)!.join('-');
}

/** As people type it: with spaces, in upper case. */
function plain(typed: string): string {
  return typed.replaceAll(' ', '').toLowerCase();
}

function recoveryHash({ id }: Member, code: string): string {
  return secretHash(`${id} ${code.replaceAll('-', '')}`);
}
