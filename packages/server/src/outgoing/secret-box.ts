import {
  createCipheriv,
  createDecipheriv,
  createHmac,
  hkdfSync,
  randomBytes,
  timingSafeEqual,
} from 'node:crypto';
import { chmodSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;

/** What was sealed with another key, or damaged. */
export class SealError extends Error {
  override name = 'SealError';
}

/**
 * Seals what has to be told again to others, such as a password of a site's own: AES-256-GCM, with the name of what it is
 * for bound to it, so that it cannot be used for anything else. The key is not in the database.
 */
export class SecretBox {
  readonly #key: Buffer;

  /** @param key - 32 bytes */
  constructor(key: Buffer) {
    if (key.length !== KEY_BYTES) throw new SealError(`A key has ${KEY_BYTES} bytes.`);
    this.#key = key;
  }

  /** @param purpose - must be named again to open it @returns base64 */
  seal(secret: string, purpose: string): string {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv('aes-256-gcm', this.#key, nonce).setAAD(Buffer.from(purpose));
    const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
  }

  /** @throws SealError */
  open(sealed: string, purpose: string): string {
    const bytes = Buffer.from(sealed, 'base64');
    const nonce = bytes.subarray(0, NONCE_BYTES);
    const tag = bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES);
    try {
      const decipher = createDecipheriv('aes-256-gcm', this.#key, nonce, { authTagLength: TAG_BYTES })
        .setAAD(Buffer.from(purpose))
        .setAuthTag(tag);
      const opened = decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES));
      return Buffer.concat([opened, decipher.final()]).toString('utf8');
    } catch {
      throw new SealError('It was sealed with another key.');
    }
  }

  /** HMAC-SHA-256 with a key of its own for each purpose (RFC 5869). @returns base64url */
  sign(text: string, purpose: string): string {
    return this.#mac(text, purpose).toString('base64url');
  }

  /** Whether `sign` has made it, of this text and for this purpose. */
  isSigned(text: string, purpose: string, signature: string): boolean {
    const given = Buffer.from(signature, 'base64url');
    const right = this.#mac(text, purpose);
    return given.length === right.length && timingSafeEqual(given, right);
  }

  /** The key itself, for a backup. @returns base64 */
  exportKey(): string {
    return this.#key.toString('base64');
  }

  #mac(text: string, purpose: string): Buffer {
    const key = Buffer.from(hkdfSync('sha256', this.#key, '', purpose, KEY_BYTES));
    return createHmac('sha256', key).update(text).digest();
  }
}

/**
 * The key of an installation: from the setting, or from a file in the data folder, which is made at the first start.
 *
 * @param given - 32 bytes in base64
 */
export function openSecretBox(given: string | undefined, dataFolder: string): SecretBox {
  if (given !== undefined) return new SecretBox(Buffer.from(given, 'base64'));
  const file = join(dataFolder, 'secret.key');
  mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
  try {
    // Of two processes that start at once, one makes it and both read it.
    writeFileSync(file, `${randomBytes(KEY_BYTES).toString('base64')}\n`, { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  chmodSync(file, 0o600);
  return new SecretBox(Buffer.from(readFileSync(file, 'utf8').trim(), 'base64'));
}
