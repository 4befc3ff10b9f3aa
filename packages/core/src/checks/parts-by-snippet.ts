import type { SnapshotSnippet } from '../snapshot/index.js';
import type { CheckedSet } from './checked-set.js';
import type { ReadPart } from './read-part.js';

/** The running parts of each snippet, in page order. */
export function partsBySnippet({ running }: Pick<CheckedSet, 'running'>): Map<SnapshotSnippet, ReadPart[]> {
  const found = new Map<SnapshotSnippet, ReadPart[]>();
  for (const part of running) {
    const parts = found.get(part.snippet);
    if (parts) parts.push(part);
    else found.set(part.snippet, [part]);
  }
  return found;
}
