import { createHash } from 'node:crypto';
import { pack, type Pack } from 'tar-stream';
import type { BackupEnd, BackupManifest } from './manifest.js';
import { countLines } from './lines.js';

/** A table’s rows in PostgreSQL’s text format of COPY: one line each, columns between tabs. Cut anywhere. */
export interface TableBytes {
  readonly name: string;
  readonly rows: AsyncIterable<Uint8Array>;
}

/** A table stands in the file in pieces of about this size: no more than one is ever held. */
const PIECE_BYTES = 1024 * 1024;

/**
 * A backup as it is made: a tar archive (POSIX ustar) of the manifest, the key, the tables in pieces, and the sums of all.
 *
 * @param key - that seals passwords, in base64; null to leave it out
 * @param onRows - told after each piece how many rows of all tables are in it so far
 */
export async function* writeBackup(
  manifest: BackupManifest,
  key: string | null,
  tables: AsyncIterable<TableBytes>,
  onRows: (rows: number) => void = () => undefined,
): AsyncGenerator<Uint8Array> {
  const tar = pack();
  const filled = fill(tar, { manifest, key, tables, onRows }).catch((error: unknown) => {
    tar.destroy(error instanceof Error ? error : new Error(String(error)));
  });
  try {
    yield* tar as AsyncIterable<Uint8Array>;
  } finally {
    tar.destroy();
    await filled;
  }
}

interface Filling {
  readonly manifest: BackupManifest;
  readonly key: string | null;
  readonly tables: AsyncIterable<TableBytes>;
  readonly onRows: (rows: number) => void;
}

/** Puts one thing after another into the archive, no faster than it is taken out. */
async function fill(tar: Pack, { manifest, key, tables, onRows }: Filling): Promise<void> {
  const mtime = new Date(manifest.madeAt);
  const add = async (name: string, content: Uint8Array | string): Promise<void> =>
    new Promise((resolve, reject) => {
      const gone = (): void => reject(new Error('Nobody takes the archive any more.'));
      tar.once('close', gone);
      tar.entry({ name, mtime, mode: 0o600 }, Buffer.from(content), (error) => {
        tar.off('close', gone);
        if (error) reject(error);
        else resolve();
      });
    });
  await add('manifest.json', JSON.stringify(manifest, null, 2));
  if (key !== null) await add('secret.key', `${key}\n`);
  const end: BackupEnd['tables'] = [];
  let all = 0;
  for await (const { name, rows } of tables) {
    const sum = createHash('sha256');
    const counted = { rows: 0, bytes: 0 };
    let number = 0;
    for await (const piece of pieces(rows)) {
      const lines = countLines(piece);
      sum.update(piece);
      counted.rows += lines;
      counted.bytes += piece.length;
      await add(`tables/${name}/${String(++number).padStart(6, '0')}.tsv`, piece);
      onRows((all += lines));
    }
    end.push({ name, ...counted, sha256: sum.digest('hex') });
  }
  await add('end.json', JSON.stringify({ tables: end } satisfies BackupEnd, null, 2));
  tar.finalize();
}

/** The same bytes in pieces of a good size. */
async function* pieces(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let held: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of chunks) {
    held.push(chunk);
    size += chunk.length;
    if (size < PIECE_BYTES) continue;
    yield Buffer.concat(held);
    held = [];
    size = 0;
  }
  if (size > 0) yield Buffer.concat(held);
}
