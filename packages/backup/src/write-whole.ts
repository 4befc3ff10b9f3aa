import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/** What a file is called until it is whole. */
export const PART_ENDING = '.part';

/** What was written. */
export interface WrittenBytes {
  readonly bytes: number;
  /** In hex. */
  readonly sha256: string;
}

/**
 * Writes a file that only its owner reads: whole, or not at all. Nobody ever finds half of it under its name.
 *
 * @throws what the disk, the bytes or the signal say
 */
export async function writeWhole(
  file: string,
  bytes: AsyncIterable<Uint8Array>,
  signal?: AbortSignal,
): Promise<WrittenBytes> {
  const part = file + PART_ENDING;
  try {
    const written = await writeTo(createWriteStream(part, { mode: 0o600, flush: true }), bytes, { signal });
    await rename(part, file);
    return written;
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}

/** Writes all of it somewhere. @param mayEnd - whether it is closed then */
export async function writeTo(
  target: NodeJS.WritableStream,
  bytes: AsyncIterable<Uint8Array>,
  { signal, mayEnd = true }: { readonly signal?: AbortSignal | undefined; readonly mayEnd?: boolean } = {},
): Promise<WrittenBytes> {
  const sum = createHash('sha256');
  let size = 0;
  const counted = new Transform({
    transform(chunk: Uint8Array, _encoding, done) {
      sum.update(chunk);
      size += chunk.length;
      done(null, chunk);
    },
  });
  const source = Readable.from(bytes, { objectMode: false });
  await pipeline(source, counted, target, { end: mayEnd, ...(signal ? { signal } : {}) });
  return { bytes: size, sha256: sum.digest('hex') };
}
