import { lstatSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { insert, type InsertOutcome, type PageLoad, type Snapshot } from '@pragmatica/core';
import { FolderParts } from './page-parts.js';

/** A page that is to be written. */
export interface PageJob {
  /** Below the folder. */
  readonly file: string;
  readonly source: string;
  /** Under which a web server would serve it. */
  readonly path: string;
}

/** What all pages of a folder are written with. */
export interface PageWork {
  readonly to: string;
  readonly snapshot: Snapshot;
  readonly load: Omit<PageLoad, 'page'>;
}

/** Writes pages with their parts in them. @returns what became of the parts, page by page */
export function insertPages(
  jobs: readonly PageJob[],
  { to, snapshot, load }: PageWork,
  onPage?: (done: number, file: string) => void,
): (readonly InsertOutcome[])[] {
  const parts = new FolderParts(snapshot, load);
  return jobs.map(({ file, source, path }, index) => {
    const { page, outcomes } = insert(readFileSync(source), parts.of(path));
    writeFileSync(join(to, file), page, { mode: lstatSync(source).mode });
    onPage?.(index + 1, file);
    return outcomes;
  });
}
