import { createReadStream } from 'node:fs';
import { access, mkdir, readdir, rm, stat, statfs } from 'node:fs/promises';
import { hostname } from 'node:os';
import { basename, join } from 'node:path';
import { PART_ENDING, writeWhole, type WrittenBytes } from '@pragmatica/backup';

/** Nobody writes a file that has not grown for so long. */
const STALE_MS = 10 * 60_000;
/** What a folder must have left beside a backup. */
const SPARE_BYTES = 64 * 1024 * 1024;
/** The next one may be so much larger than the last. */
const GROWTH = 1.25;

/** The folder on this machine that holds the backups which the installation makes of itself. */
export class BackupFolder {
  readonly path: string;
  /** Name of this machine. */
  readonly machine = hostname();

  constructor(path: string) {
    this.path = path;
  }

  /** Whether there is room for another one. @param lastBytes - of the last one; 0 where there is none */
  async hasRoom(lastBytes: number): Promise<boolean> {
    await mkdir(this.path, { recursive: true, mode: 0o700 });
    const { bavail, bsize } = await statfs(this.path);
    return bavail * bsize > lastBytes * GROWTH + SPARE_BYTES;
  }

  /** Writes a file whole, or not at all. @throws what the disk says, or the signal */
  async write(name: string, bytes: AsyncIterable<Uint8Array>, signal: AbortSignal): Promise<WrittenBytes> {
    return writeWhole(this.#fileOf(name), bytes, signal);
  }

  /** Removes what was left by workers that died while they wrote. */
  async sweepParts(): Promise<void> {
    const names = await readdir(this.path).catch(() => []);
    for (const name of names.filter((one) => one.endsWith(PART_ENDING))) {
      const { mtimeMs } = await stat(this.#fileOf(name));
      if (Date.now() - mtimeMs > STALE_MS) await rm(this.#fileOf(name), { force: true });
    }
  }

  async has(name: string): Promise<boolean> {
    return access(this.#fileOf(name)).then(
      () => true,
      () => false,
    );
  }

  read(name: string): AsyncIterable<Uint8Array> {
    return createReadStream(this.#fileOf(name));
  }

  async remove(name: string): Promise<void> {
    await rm(this.#fileOf(name), { force: true });
  }

  /** Never a file of another folder. */
  #fileOf(name: string): string {
    return join(this.path, basename(name));
  }
}
