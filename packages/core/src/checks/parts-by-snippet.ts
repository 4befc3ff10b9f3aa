import type { SnapshotSnippet } from '../snapshot/index.js';
import type { CheckedSet } from './checked-set.js';
import { grouped } from './groups.js';
import type { ReadPart } from './read-part.js';

/** The running parts of each snippet, in page order. */
export function partsBySnippet({ running }: Pick<CheckedSet, 'running'>): Map<SnapshotSnippet, ReadPart[]> {
  return grouped(running, ({ snippet }) => snippet);
}
