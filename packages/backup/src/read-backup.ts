import { createHash } from 'node:crypto';
import { PassThrough, Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { extract, type Entry } from 'tar-stream';
import type { z } from 'zod';
import { BackupError, placeWords } from './backup-error.js';
import { countLines } from './lines.js';
import {
  BACKUP_FORM,
  MOST_MANIFEST_BYTES,
  backupEnd,
  backupManifest,
  type BackupManifest,
  type TableOfBackup,
} from './manifest.js';

/** What comes out of a backup, in this order: the manifest, the key, the tables' rows, the end. */
export type BackupItem =
  | { readonly type: 'manifest'; readonly manifest: BackupManifest }
  | { readonly type: 'key'; readonly key: string }
  /** Bytes of one table in the text format of COPY, cut anywhere, and how many of its rows have come with them. */
  | {
      readonly type: 'rows';
      readonly table: TableOfBackup;
      readonly bytes: Uint8Array;
      readonly done: number;
    }
  /** Everything was read, and is what was written. */
  | { readonly type: 'end' };

/** What the reader of tar archives says of one that ends within an entry. */
const CUT_OFF = 'Unexpected end of data';
const MOST_KEY_BYTES = 1024;
const PIECE = /^tables\/([a-z_]{1,63})\/\d{6,12}\.tsv$/;

/**
 * Reads a backup as it comes. Nothing of it counts before its end has come: only then is it sure that it is whole.
 *
 * @param bytes - the tar archive, neither compressed nor encrypted (`openBackup`)
 * @throws BackupError where it is none, is damaged, or ends too early
 */
export async function* readBackup(bytes: AsyncIterable<Uint8Array>): AsyncGenerator<BackupItem> {
  const tar = extract();
  let failure: unknown;
  const input = pipeline(Readable.from(bytes, { objectMode: false }), new PassThrough(), tar).catch(
    (error: unknown) => (failure = error),
  );
  const reading = new Reading();
  try {
    for await (const entry of tar as AsyncIterable<Entry>) yield* reading.entry(entry);
  } catch (error) {
    if (error instanceof BackupError) throw error;
    if (failure instanceof BackupError) throw failure;
    if (isAbort(failure)) throw failure;
    throw reading.broken(error);
  } finally {
    tar.destroy();
    await input;
  }
  reading.assertEnded();
}

function isAbort(error: unknown): boolean {
  return error instanceof Error && (error.name === 'AbortError' || 'code' in error);
}

interface Sum {
  readonly hash: ReturnType<typeof createHash>;
  rows: number;
  bytes: number;
}

/** How far a backup has been read. */
class Reading {
  #manifest: BackupManifest | undefined;
  #at = -1;
  #isOver = false;
  readonly #sums = new Map<string, Sum>();

  async *entry(entry: Entry): AsyncGenerator<BackupItem> {
    const { name, size = 0 } = entry.header;
    if (this.#isOver) throw new BackupError('damaged', { place: name });
    if (!this.#manifest) {
      if (name !== 'manifest.json' || size > MOST_MANIFEST_BYTES) throw new BackupError('notBackup');
      this.#manifest = manifestOf(await textOf(entry));
      for (const { name: table } of this.#manifest.tables)
        this.#sums.set(table, { hash: createHash('sha256'), rows: 0, bytes: 0 });
      yield { type: 'manifest', manifest: this.#manifest };
    } else if (name === 'secret.key' && size <= MOST_KEY_BYTES) {
      yield { type: 'key', key: (await textOf(entry)).trim() };
    } else if (name === 'end.json' && size <= MOST_MANIFEST_BYTES) {
      this.#end(await textOf(entry));
      yield { type: 'end' };
    } else {
      yield* this.#piece(PIECE.exec(name)?.[1], entry);
    }
  }

  async *#piece(name: string | undefined, entry: Entry): AsyncGenerator<BackupItem> {
    const { tables } = this.#manifest!;
    const at = tables.findIndex((table) => table.name === name);
    if (at < this.#at || at < 0) throw new BackupError('damaged', { place: entry.header.name });
    this.#at = at;
    const table = tables[at]!;
    const sum = this.#sums.get(table.name)!;
    for await (const bytes of entry as AsyncIterable<Uint8Array>) {
      sum.hash.update(bytes);
      sum.rows += countLines(bytes);
      sum.bytes += bytes.length;
      yield { type: 'rows', table, bytes, done: sum.rows };
    }
  }

  #end(text: string): void {
    const end = parsed(backupEnd, text);
    const written = new Map(end?.tables.map((table) => [table.name, table]));
    for (const { name, rows } of this.#manifest!.tables) {
      const [was, is] = [written.get(name), this.#sums.get(name)!];
      const isSame = is.rows === rows && was?.bytes === is.bytes && was.sha256 === is.hash.digest('hex');
      if (!isSame) throw new BackupError('damaged', { place: placeWords(name) });
    }
    this.#isOver = true;
  }

  broken(cause: unknown): BackupError {
    if (!this.#manifest) return new BackupError('notBackup', {}, cause);
    const isCutOff = cause instanceof Error && cause.message === CUT_OFF;
    return new BackupError(isCutOff ? 'cutOff' : 'damaged', { place: this.#place() }, cause);
  }

  assertEnded(): void {
    if (!this.#manifest) throw new BackupError('notBackup');
    if (!this.#isOver) throw new BackupError('cutOff', { place: this.#place() });
  }

  #place(): string {
    return placeWords(this.#manifest?.tables[this.#at]?.name);
  }
}

async function textOf(entry: AsyncIterable<Uint8Array>): Promise<string> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of entry) chunks.push(chunk);
  return Buffer.concat(chunks).toString('utf8');
}

function manifestOf(text: string): BackupManifest {
  const form = parsed(backupManifest.pick({ format: true, form: true }), text);
  if (form && form.form > BACKUP_FORM)
    throw new BackupError('newerFormat', { version: form.form, known: BACKUP_FORM });
  const manifest = parsed(backupManifest, text);
  if (!manifest) throw new BackupError('notBackup');
  return manifest;
}

function parsed<T extends z.ZodType>(schema: T, text: string): z.output<T> | undefined {
  try {
    return schema.parse(JSON.parse(text));
  } catch {
    return undefined;
  }
}
