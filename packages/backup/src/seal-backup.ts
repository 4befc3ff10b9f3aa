import { Readable, type Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { Decrypter, Encrypter, generateX25519Identity, identityToRecipient } from 'age-encryption';
import { BackupError } from './backup-error.js';
import { BACKUP_TEXTS } from './texts/backup-texts.js';

const GZIP = [0x1f, 0x8b];
const AGE = 'age-encryption.org/v1\n';

/** Fast rather than small: what fills a backup is evidence, which is compressed already, and shrinks no more at higher ones. */
const LEVEL = 1;

/**
 * A backup as it is kept: compressed (RFC 1952), and encrypted for whoever is to read it (age-encryption.org/v1).
 *
 * @param recipients - public keys, "age1…"; none leaves it readable
 * @throws BackupError notRecipient
 */
export async function packBackup(
  bytes: AsyncIterable<Uint8Array>,
  recipients: readonly string[],
): Promise<AsyncIterable<Uint8Array>> {
  const encrypter = new Encrypter();
  for (const text of recipients) addRecipient(encrypter, text);
  const packed = through(bytes, createGzip({ level: LEVEL }));
  if (recipients.length === 0) return packed;
  return await encrypter.encrypt(webStream(packed));
}

function webStream(bytes: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array> {
  return Readable.toWeb(Readable.from(bytes, { objectMode: false })) as ReadableStream<Uint8Array>;
}

/** The same bytes after a stream of Node's has worked on them. */
async function* through(bytes: AsyncIterable<Uint8Array>, transform: Transform): AsyncGenerator<Uint8Array> {
  // What goes wrong in it comes out of the transform as well.
  const fed = pipeline(Readable.from(bytes, { objectMode: false }), transform).catch(
    (error: unknown) => error,
  );
  try {
    yield* transform as AsyncIterable<Uint8Array>;
  } catch (error) {
    throw (await fed) ?? error;
  } finally {
    transform.destroy();
    await fed;
  }
}

function addRecipient(encrypter: Encrypter, text: string): void {
  try {
    encrypter.addRecipient(text);
  } catch (error) {
    throw new BackupError('notRecipient', { text: text.slice(0, 80) }, error);
  }
}

/** @throws BackupError notRecipient */
export function assertRecipients(recipients: readonly string[]): void {
  const encrypter = new Encrypter();
  for (const text of recipients) addRecipient(encrypter, text);
}

/**
 * What `packBackup` was given, of a file in any of its forms: it is seen from the first bytes.
 *
 * @param keys - that may open it, "AGE-SECRET-KEY-1…"
 * @throws BackupError needsKey, wrongKey, and while it is read damaged
 */
export async function openBackup(
  bytes: AsyncIterable<Uint8Array>,
  keys: readonly string[],
): Promise<AsyncIterable<Uint8Array>> {
  const sealed = await startOf(bytes);
  if (!sealed.start.subarray(0, AGE.length).equals(Buffer.from(AGE))) return unpacked(sealed);
  if (keys.length === 0) throw new BackupError('needsKey');
  const decrypter = new Decrypter();
  for (const key of keys) decrypter.addIdentity(key);
  return unpacked(await startOf(await decrypted(decrypter, sealed.all)));
}

async function decrypted(
  decrypter: Decrypter,
  bytes: AsyncIterable<Uint8Array>,
): Promise<AsyncIterable<Uint8Array>> {
  try {
    const opened = await decrypter.decrypt(webStream(bytes));
    return guarded(opened, BACKUP_TEXTS.encryption);
  } catch (error) {
    throw new BackupError('wrongKey', {}, error);
  }
}

function unpacked({ start, all }: Started): AsyncIterable<Uint8Array> {
  if (!GZIP.every((byte, at) => start[at] === byte)) return all;
  return guarded(through(all, createGunzip()), BACKUP_TEXTS.packing);
}

/** The same, with what goes wrong said as damage of the file. */
async function* guarded(bytes: AsyncIterable<Uint8Array>, place: string): AsyncGenerator<Uint8Array> {
  try {
    yield* bytes;
  } catch (error) {
    if (!isOfFormat(error)) throw error;
    throw new BackupError(isCutOff(error) ? 'cutOff' : 'damaged', { place }, error);
  }
}

const CUT_OFF = 'Z_BUF_ERROR';

/** Of zlib, or of the cipher, which names no codes; whatever else goes wrong is the business of whoever gives the bytes. */
function isOfFormat(error: unknown): boolean {
  if (!(error instanceof Error) || error instanceof BackupError || error.name === 'AbortError') return false;
  const code = (error as NodeJS.ErrnoException).code;
  return code === undefined || code.startsWith('Z_');
}

function isCutOff(error: unknown): boolean {
  return (error as NodeJS.ErrnoException).code === CUT_OFF;
}

interface Started {
  readonly start: Buffer;
  /** All bytes, the start among them. */
  readonly all: AsyncIterable<Uint8Array>;
}

/** Looks at the first bytes without taking them away. */
async function startOf(bytes: AsyncIterable<Uint8Array>): Promise<Started> {
  const iterator = bytes[Symbol.asyncIterator]();
  const held: Uint8Array[] = [];
  let size = 0;
  while (size < AGE.length) {
    const next = await iterator.next();
    if (next.done === true) break;
    held.push(next.value);
    size += next.value.length;
  }
  const all = (async function* () {
    try {
      yield* held;
      for (;;) {
        const next = await iterator.next();
        if (next.done === true) return;
        yield next.value;
      }
    } finally {
      await iterator.return?.();
    }
  })();
  return { start: Buffer.concat(held), all };
}

export interface BackupKey {
  /** Whoever has it reads the backups. "AGE-SECRET-KEY-1…" */
  readonly key: string;
  /** Whoever has it makes backups for the key. "age1…" */
  readonly recipient: string;
}

/** A new pair of keys. */
export async function newBackupKey(): Promise<BackupKey> {
  const key = await generateX25519Identity();
  return { key, recipient: await identityToRecipient(key) };
}

/** The keys in a file of them, as the tools of age write it: one a line, and comments. @throws BackupError noKeyInFile */
export function keysInFile(text: string): string[] {
  const keys = text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => /^AGE-SECRET-KEY-/i.test(line));
  if (keys.length === 0) throw new BackupError('noKeyInFile');
  return keys;
}
