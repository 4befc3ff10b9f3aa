import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Environment } from '@pragmatica/contract';
import { snapshotDigest, type Snapshot } from '@pragmatica/core';

/** A release as it lies on disk. */
export interface Copy {
  readonly site: string;
  readonly environment: Environment;
  readonly release: number;
  readonly snapshot: Snapshot;
}

/** @returns undefined for a file that is not there, or not whole */
export async function readCopy(file: string): Promise<Copy | undefined> {
  try {
    const { digest, ...copy } = JSON.parse(await readFile(file, 'utf8')) as Copy & { digest: string };
    return snapshotDigest(copy.snapshot) === digest ? copy : undefined;
  } catch {
    return undefined;
  }
}

/** Replaces the copy at once: whoever reads it meanwhile gets the old one or the new one, whole. */
export async function writeCopy(file: string, copy: Copy): Promise<void> {
  await mkdir(dirname(file), { recursive: true });
  const next = `${file}.${process.pid}.next`;
  await writeFile(next, JSON.stringify({ ...copy, digest: snapshotDigest(copy.snapshot) }), { mode: 0o600 });
  await rename(next, file);
}
