import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { InsertOutcome } from '@pragmatica/core';

/** What was written into a folder, kept there beside the pages, so that the next time only what has changed is written. */
export const MANIFEST = '.pragmatica-insert.json';
/** Another one whenever folders are written otherwise. */
const FORMAT = 'pragmatica-insert/1';

/** A file as it was when it was read. */
export interface Stamp {
  readonly size: number;
  readonly mtimeMs: number;
}

export interface WrittenFile extends Stamp {
  readonly kind: 'page' | 'copy' | 'packed';
  /** Of a page and what is packed of it: names what was put in. */
  readonly parts?: string;
  readonly outcomes?: readonly InsertOutcome[];
}

/** By file, below the folder. */
export type Manifest = Readonly<Record<string, WrittenFile>>;

/** @returns undefined where there is none, or one that is not ours to understand */
export function readManifest(folder: string): Manifest | undefined {
  try {
    const { format, files } = JSON.parse(readFileSync(join(folder, MANIFEST), 'utf8')) as {
      format: unknown;
      files: Manifest;
    };
    return format === FORMAT ? files : undefined;
  } catch {
    return undefined;
  }
}

/** Files by name, so that equal folders have equal manifests. */
export function writeManifest(folder: string, files: ReadonlyMap<string, WrittenFile>): void {
  const sorted = Object.fromEntries([...files].sort(([a], [b]) => (a < b ? -1 : 1)));
  const next = join(folder, `${MANIFEST}.next`);
  writeFileSync(next, `${JSON.stringify({ format: FORMAT, files: sorted })}\n`);
  renameSync(next, join(folder, MANIFEST));
}

export function isSameStamp(a: Stamp, b: Stamp): boolean {
  return a.size === b.size && a.mtimeMs === b.mtimeMs;
}
