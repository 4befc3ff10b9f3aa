import { createHash } from 'node:crypto';
import { mkdir, readFile, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Snapshot } from '@pragmatica/core';
import type { GatewayState, ReleaseState } from './state.js';

/** A file is not what was written. */
export class ReleaseFileError extends Error {
  override name = 'ReleaseFileError';
}

interface Kept {
  readonly digest: string;
  /** JSON of a `GatewayState`, in text, so that its digest is of exactly these bytes. */
  readonly state: string;
}

const STATE_FILE = 'state.json';
const RELEASE_FILE = /^release-(\d+)\.json$/;

/**
 * The last state on disk: what gateways start from while the database is away, and where serving processes read
 * releases. A release lies in a file of its own and is written once; a publish writes one release, not all of them.
 */
export class ReleaseFiles {
  readonly folder: string;
  #written = '';

  constructor(folder: string) {
    this.folder = folder;
  }

  /** Writes the state if it has changed, and removes releases that it no longer names. */
  async writeState(state: GatewayState): Promise<void> {
    const text = JSON.stringify(state);
    const digest = sha256(text);
    if (digest === this.#written) return;
    const kept: Kept = { digest, state: text };
    await this.#replace(STATE_FILE, JSON.stringify(kept));
    this.#written = digest;
    await this.#prune(new Set(state.releases.map(({ id }) => id)));
  }

  /** Reads the state, undefined when there is none. @throws ReleaseFileError when its digest does not fit */
  async readState(): Promise<GatewayState | undefined> {
    const file = join(this.folder, STATE_FILE);
    let text: string;
    try {
      text = await readFile(file, 'utf8');
    } catch {
      return undefined;
    }
    try {
      const kept = JSON.parse(text) as Kept;
      if (sha256(kept.state) !== kept.digest) throw new Error('its digest is another');
      return JSON.parse(kept.state) as GatewayState;
    } catch (error) {
      throw new ReleaseFileError(`${file} cannot be used: ${error instanceof Error ? error.message : ''}`);
    }
  }

  /** Writes a release's snapshot, once. @param text - JSON, whose SHA-256 the state holds */
  async writeRelease(id: number, text: string): Promise<void> {
    await this.#replace(`release-${id}.json`, text);
  }

  async hasRelease({ id }: ReleaseState): Promise<boolean> {
    return stat(this.#release(id)).then(
      () => true,
      () => false,
    );
  }

  /** @throws ReleaseFileError when the file is missing or not what was written */
  async readRelease({ id, sha256: wanted }: ReleaseState): Promise<Snapshot> {
    const file = this.#release(id);
    try {
      const bytes = await readFile(file);
      if (sha256(bytes) !== wanted) throw new Error('its digest is another');
      return JSON.parse(bytes.toString('utf8')) as Snapshot;
    } catch (error) {
      throw new ReleaseFileError(`${file} cannot be used: ${error instanceof Error ? error.message : ''}`);
    }
  }

  #release(id: number): string {
    return join(this.folder, `release-${id}.json`);
  }

  /** A reader sees the old file or the new one, never half of one. */
  async #replace(name: string, text: string): Promise<void> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    const next = join(this.folder, `.${name}.${process.pid}`);
    await writeFile(next, text, { mode: 0o600 });
    await rename(next, join(this.folder, name));
  }

  async #prune(kept: ReadonlySet<number>): Promise<void> {
    for (const name of await readdir(this.folder)) {
      const id = RELEASE_FILE.exec(name)?.[1];
      if (id !== undefined && !kept.has(Number(id))) await rm(join(this.folder, name), { force: true });
    }
  }
}

export function sha256(text: string | Uint8Array): string {
  return createHash('sha256').update(text).digest('hex');
}
