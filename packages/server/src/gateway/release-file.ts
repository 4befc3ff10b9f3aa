import { createHash } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { snapshotDigest, type Snapshot } from '@pragmatica/core';
import type { Environment } from '@pragmatica/contract';

/** All that the gateway needs to serve, as plain data. */
export interface GatewayState {
  readonly hosts: readonly {
    readonly host: string;
    readonly site: string;
    readonly environment: Environment;
    readonly origins: readonly string[];
    /** Id of the release, or null while nothing is published. */
    readonly release: number | null;
  }[];
  readonly releases: readonly {
    readonly id: number;
    readonly number: number;
    readonly digest: string;
    readonly snapshot: Snapshot;
  }[];
}

interface Kept {
  readonly digest: string;
  /** JSON of a `GatewayState`, in text, so that its digest is of exactly these bytes. */
  readonly state: string;
}

/** The file is not what was written. */
export class ReleaseFileError extends Error {
  override name = 'ReleaseFileError';
}

/** The last state on disk: what the gateway starts from while the database is away. */
export class ReleaseFile {
  readonly path: string;
  #written = '';

  constructor(path: string) {
    this.path = path;
  }

  /** Writes the state if it has changed; a reader sees the old file or the new one, never half of one. */
  async write(state: GatewayState): Promise<void> {
    const text = JSON.stringify(state);
    const digest = sha256(text);
    if (digest === this.#written) return;
    const kept: Kept = { digest, state: text };
    await mkdir(dirname(this.path), { recursive: true });
    const next = `${this.path}.${process.pid}`;
    await writeFile(next, JSON.stringify(kept), { mode: 0o600 });
    await rename(next, this.path);
    this.#written = digest;
  }

  /** Reads the state, undefined when there is none. @throws ReleaseFileError when a digest does not fit */
  async read(): Promise<GatewayState | undefined> {
    let text: string;
    try {
      text = await readFile(this.path, 'utf8');
    } catch {
      return undefined;
    }
    try {
      const kept = JSON.parse(text) as Kept;
      if (sha256(kept.state) !== kept.digest) throw new Error('its digest is another');
      const state = JSON.parse(kept.state) as GatewayState;
      for (const release of state.releases)
        if (snapshotDigest(release.snapshot) !== release.digest)
          throw new Error(`the digest of release ${release.number} is another`);
      return state;
    } catch (error) {
      throw new ReleaseFileError(
        `${this.path} cannot be used: ${error instanceof Error ? error.message : ''}`,
      );
    }
  }
}

function sha256(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}
