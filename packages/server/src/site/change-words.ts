import { difference, type Snapshot } from '@pragmatica/core';

/** What makes one set of another, in sentences; empty where nothing does. */
export function changeWords(before: Snapshot, after: Snapshot): string {
  return difference(before, after)
    .map(({ message }) => message)
    .join(' ');
}
