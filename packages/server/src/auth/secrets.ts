import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/** Argon2id with the library's defaults (RFC 9106's second recommended option and above). */
export async function hashPassword(password: string): Promise<string> {
  return hash(password);
}

/** Takes the same time for what is stored of nobody's password. */
export async function isPassword(stored: string, password: string): Promise<boolean> {
  if (!stored.startsWith('$argon2')) return checkDecoy(password);
  return verify(stored, password).catch(() => false);
}

let decoy: Promise<string> | undefined;

/** Takes as long as checking a real password, so that the time does not tell which logins exist. */
export async function checkDecoy(password: string): Promise<false> {
  decoy ??= hashPassword(randomBytes(16).toString('hex'));
  await isPassword(await decoy, password);
  return false;
}

/** A bearer secret: 256 random bits, with a prefix by which secret scanners can tell it. */
export function newSecret(): string {
  return `pragmatica_${randomBytes(32).toString('base64url')}`;
}

/** What is stored of a secret. It has full entropy, so a plain hash is enough. */
export function secretHash(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}

const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

/** A one-time password that can be read aloud: four groups of four, 79 bits. */
export function newOneTimePassword(): string {
  const letters = [...randomBytes(16)].map((byte) => LETTERS[byte % LETTERS.length]!).join('');
  return letters.match(/.{4}/g)!.join('-');
}
